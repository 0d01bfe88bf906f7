import type { Came } from '../../../core/format/oneroster/book';
import type { RosterFile } from '../../../core/format/oneroster/files';
import { keyOf } from '../../../core/roster/things';
import type { Done } from './plan-work';

/** The table and line of a change; null where it is in none any more. */
export type FindLine = (done: Done) => { file: RosterFile; line: number } | null;

/** The line that a change stands in: of a tie that of either of its ends. */
export function lineFinder(done: readonly Done[], came: Came): FindLine {
	const enrolments = new Map<string, number>();
	if (done.some((d) => d.change.kind === 'enrolment' || d.change.kind === 'sectionStaff'))
		for (const [id, line] of came.enrollments?.lines ?? [])
			enrolments.set(keyOf(line.class, line.user), came.enrollments!.at.get(id)!);
	const at = (file: RosterFile, key: string) => {
		const line = came[file]?.at.get(key);
		return line === undefined ? null : { file, line };
	};
	return ({ change: { kind, key, after }, step }) => {
		if (after === null || step.what === 'gone') return null;
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
