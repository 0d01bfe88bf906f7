import { matchColumns } from '../../../core/roster/list/match-columns';
import type { ListField } from '../../../core/roster/list/fields';
import { studentsAllowed } from '../../access/allowed';
import type { User } from '../../access/user';
import type { Db } from '../../db/open';
import { Broken } from '../../reading/roster/broken';
import { readTextTable } from '../../reading/roster/table-text';
import type { Said } from '../../said';
import { studentFinder } from '../roster/listed-students';
import type { FoundStudents } from './types';

const mostBytes = 2_000_000;
const mostRows = 20_000;

function tableOf(content: Uint8Array): Said<{ readonly rows: readonly (readonly string[])[] }> {
	try {
		return { ok: true, rows: readTextTable(content, 'The list').rows.map((row) => row.cells) };
	} catch (error) {
		if (!(error instanceof Broken)) throw error;
		return { ok: false, why: error.message };
	}
}

/**
 * Finds the students whom a table names: by the district's number or by name with grade and school, as
 * its heading says; a table of one column without a heading is of numbers or names. Nothing is changed.
 */
export async function studentsInTable(
	{ db, key }: { readonly db: Db; readonly key: Buffer },
	user: User,
	groupId: number,
	content: Uint8Array
): Promise<Said<FoundStudents>> {
	if (content.length > mostBytes)
		return { ok: false, why: 'The table is over 2 MB. A list of students is far smaller.' };
	const table = tableOf(content);
	if (!table.ok) return table;
	const rows = table.rows;
	if (rows.length > mostRows) return { ok: false, why: 'The table has over 20,000 lines.' };
	const columns = matchColumns(rows[0] ?? [], rows.slice(1, 200));
	const headed = columns.some((c) => c?.startsWith('student') || c === 'name');
	const at = (row: readonly string[], ...fields: readonly ListField[]) =>
		fields
			.map((f) => row[columns.indexOf(f)] ?? '')
			.find((cell) => cell.trim() !== '')
			?.trim() ?? '';
	const named = (row: readonly string[]) =>
		headed
			? {
					number: at(row, 'studentNumber', 'number'),
					name:
						at(row, 'studentName', 'name') ||
						`${at(row, 'studentGivenName', 'givenName')} ${at(row, 'studentFamilyName', 'familyName')}`.trim(),
					grade: at(row, 'studentGrade'),
					school: at(row, 'studentSchool')
				}
			: /\d/.test(row[0] ?? '')
				? { number: (row[0] ?? '').trim(), name: '', grade: '', school: '' }
				: { number: '', name: (row[0] ?? '').trim(), grade: '', school: '' };
	const lines = (headed ? rows.slice(1) : rows).map(named);
	const find = await studentFinder(
		db,
		lines.map((l) => l.number),
		key
	);
	const allowed = await studentsAllowed(db, user);
	const mine = allowed === null ? null : new Set(allowed);
	const members = new Set(
		(
			await db.all<{ id: number }>(
				'SELECT person_id AS id FROM group_member WHERE group_id = $groupId',
				{ groupId }
			)
		).map((m) => m.id)
	);
	const found = new Map<number, FoundStudents['found'][number]>();
	const wrong: { line: number; text: string }[] = [];
	lines.forEach((line, i) => {
		const said = line.number || line.name;
		const students = find(line).filter((s) => mine === null || mine.has(s.id));
		const [student] = students;
		if (student && students.length === 1)
			found.set(student.id, {
				...{ id: student.id, name: student.name },
				note: [student.grade === null ? '' : `Grade ${student.grade}`, student.schoolShort]
					.filter(Boolean)
					.join(', ')
			});
		else
			wrong.push({
				line: i + (headed ? 2 : 1),
				text: student
					? `${students.length} students are “${said.slice(0, 60)}”: say which by number, grade or school.`
					: `No student of yours is “${said.slice(0, 60)}”.`
			});
	});
	const fresh = [...found.values()].filter((s) => !members.has(s.id));
	return { ok: true, found: fresh, already: found.size - fresh.length, wrong };
}
