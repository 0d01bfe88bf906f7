import { audienceSchema, type Audience, type StudentSet } from '../../../core/audience/audience';

/** The students of a place, by the key that it has where reach is shown; null for what is none. */
function studentsOf(key: string): StudentSet | null {
	const [, kind, number, level] =
		/^(school|grade|section)-(\d{1,15})(?:-(.{1,60}))?$/.exec(key) ?? [];
	const ids = [Number(number)];
	switch (kind) {
		case 'school':
			return { kind: 'schools', ids };
		case 'section':
			return { kind: 'sections', ids };
		case 'grade':
			return level === undefined
				? null
				: {
						kind: 'all',
						of: [
							{ kind: 'schools', ids },
							{ kind: 'grades', levels: [level] }
						]
					};
		default:
			return null;
	}
}

/** The guardians of those students of a place who lack a marker; null where the place is none. Whom of them its writer may write to is asked where it is planned. */
export function lackingAudience(markerId: number, placeKey: string): Audience | null {
	const of = studentsOf(placeKey);
	if (!of) return null;
	const read = audienceSchema.safeParse({
		version: 2,
		lines: [
			{
				verb: 'and',
				to: [{ kind: 'guardians' }],
				of,
				only: [{ kind: 'marker', markerId, is: { test: 'lacks' } }]
			}
		],
		byHand: []
	});
	return read.success ? read.data : null;
}
