import type { User } from '../../access/user';
import type { Db } from '../../db/open';
import type { Said } from '../../said';
import { readStudentTable, type ListedStudent } from '../roster/student-table';
import type { FoundStudents } from './types';

/** Finds the students whom a table names and who are not in a group yet. Nothing is changed. */
export async function studentsInTable(
	place: { readonly db: Db; readonly key: Buffer },
	user: User,
	groupId: number,
	content: Uint8Array
): Promise<Said<FoundStudents>> {
	const table = await readStudentTable(place, user, content);
	if (!table.ok) return table;
	const members = new Set(
		(
			await place.db.all<{ id: number }>(
				'SELECT person_id AS id FROM group_member WHERE group_id = $groupId',
				{ groupId }
			)
		).map((m) => m.id)
	);
	const found = new Map<number, ListedStudent>();
	for (const { student } of table.lines) if (student) found.set(student.id, student);
	const fresh = [...found.values()].filter((s) => !members.has(s.id));
	return {
		ok: true,
		found: fresh,
		already: found.size - fresh.length,
		wrong: table.lines.flatMap(({ line, student, why }) => (student ? [] : { line, text: why }))
	};
}
