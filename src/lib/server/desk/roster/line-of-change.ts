import type { BookFile, Came, CameFile } from '../../../core/format/oneroster/book';
import { personKeys } from '../../../core/roster/list/from-list';
import { keyOf } from '../../../core/roster/things';
import type { Done } from './plan-work';

/** The table and line of a change; null where it is in none any more. */
export type FindLine = (done: Done) => { file: BookFile; line: number } | null;

/** The line that a change stands in: of a tie that of either of its ends. */
export function lineFinder(done: readonly Done[], came: Came): FindLine {
	const enrolments = new Map<string, number>();
	if (done.some((d) => d.change.kind === 'enrolment' || d.change.kind === 'sectionStaff'))
		for (const [id, line] of came.enrollments?.lines ?? [])
			enrolments.set(keyOf(line.class, line.user), came.enrollments!.at.get(id)!);
	const at = (file: BookFile, key: string) => {
		const line = came[file]?.at.get(key);
		return line === undefined ? null : { file, line };
	};
	const listed = came.contacts ? listedLines(came.contacts) : null;
	return ({ change: { kind, key, after }, step }) => {
		if (after === null || step.what === 'gone') return null;
		if (listed) {
			const line = listed.get(key);
			return line === undefined ? null : { file: 'contacts', line };
		}
		switch (kind) {
			case 'person':
				return at('users', key);
			case 'school':
				return at('orgs', key);
			case 'term':
				return at('academicSessions', key);
			case 'course':
				return at('courses', key.split('\n')[0]!);
			case 'section':
				return at('classes', key);
			case 'contact':
				return at('users', after.student as string) ?? at('users', after.person as string);
			case 'staffRole':
				return at('users', after.person as string);
			case 'enrolment':
			case 'sectionStaff': {
				const line = enrolments.get(key);
				return line === undefined ? null : { file: 'enrollments', line };
			}
			default:
				return null;
		}
	};
}

/** The lines of a contact list by the keys of what they say: the person, and the tie to the student. */
function listedLines({ lines, at }: CameFile<'contacts'>): ReadonlyMap<string, number> {
	const found = new Map<string, number>();
	for (const [line, person] of personKeys([...lines.values()])) {
		const number = at.get(line.id)!;
		if (!found.has(person)) found.set(person, number);
		found.set(keyOf(line.student, person), number);
	}
	return found;
}
