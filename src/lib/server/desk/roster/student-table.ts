import { readDistrict } from '../../db/district';
import { matchColumns } from '../../../core/roster/list/match-columns';
import type { ListField } from '../../../core/roster/list/fields';
import { studentsAllowed } from '../../access/allowed';
import type { User } from '../../access/user';
import type { Db } from '../../db/open';
import { Broken } from '../../reading/roster/broken';
import { readTextTable } from '../../reading/roster/table-text';
import type { Said } from '../../said';
import { studentFinder } from './listed-students';

const mostBytes = 4_000_000;
const mostRows = 30_000;

/** A student as a table names them. */
export interface ListedStudent {
	readonly id: number;
	readonly name: string;
	/** "Grade 4, Tern". */
	readonly note: string;
}

/** One line of a table of students: whom it names, or why it names nobody. */
interface StudentLine {
	/** Counted from 1, the heading among them. */
	readonly line: number;
	readonly cells: readonly string[];
	readonly student: ListedStudent | null;
	readonly why: string;
}

export interface StudentTable {
	/** Null where the table has no heading. */
	readonly heading: readonly string[] | null;
	/** Which of its columns say who the student is. */
	readonly ofStudent: readonly boolean[];
	readonly lines: readonly StudentLine[];
}

function tableOf(content: Uint8Array): Said<{ readonly rows: readonly (readonly string[])[] }> {
	try {
		return { ok: true, rows: readTextTable(content, 'The list').rows.map((row) => row.cells) };
	} catch (error) {
		if (!(error instanceof Broken)) throw error;
		return { ok: false, why: error.message };
	}
}

const studentFields: readonly (ListField | null)[] = [
	'studentNumber',
	'number',
	'studentName',
	'name',
	'studentGivenName',
	'givenName',
	'studentFamilyName',
	'familyName',
	'studentGrade',
	'studentSchool'
];

/**
 * Finds the students whom a table names: by the district's number or by name with grade and school, as
 * its heading says; a table without a heading begins with numbers or names. Whoever is not the user's is not
 * found. Nothing is changed.
 */
export async function readStudentTable(
	{ db, key }: { readonly db: Db; readonly key: Buffer },
	user: User,
	content: Uint8Array
): Promise<Said<StudentTable>> {
	if (content.length > mostBytes)
		return { ok: false, why: 'The table is over 4 MB. A list of students is far smaller.' };
	const table = tableOf(content);
	if (!table.ok) return table;
	const rows = table.rows;
	if (rows.length > mostRows) return { ok: false, why: 'The table has over 30,000 lines.' };
	const columns = matchColumns(rows[0] ?? [], rows.slice(1, 200), (await readDistrict(db)).country);
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
	const body = headed ? rows.slice(1) : rows;
	const names = body.map(named);
	const find = await studentFinder(
		db,
		names.map((l) => l.number),
		key
	);
	const allowed = await studentsAllowed(db, user);
	const mine = allowed === null ? null : new Set(allowed);
	const lines = names.map((line, i): StudentLine => {
		const students = find(line).filter((s) => mine === null || mine.has(s.id));
		const [one] = students;
		const said = (line.number || line.name).slice(0, 60);
		const where = { line: i + (headed ? 2 : 1), cells: body[i]! };
		if (!one || students.length > 1)
			return {
				...where,
				student: null,
				why: one
					? `${students.length} students are “${said}”: say which by number, grade or school.`
					: `No student of yours is “${said}”.`
			};
		const grade = one.grade === null ? '' : `Grade ${one.grade}`;
		const note = [grade, one.schoolShort].filter(Boolean).join(', ');
		return { ...where, student: { id: one.id, name: one.name, note }, why: '' };
	});
	return {
		ok: true,
		heading: headed ? rows[0]! : null,
		ofStudent: headed
			? columns.map((c) => studentFields.includes(c))
			: (rows[0] ?? []).map((_, i) => i === 0),
		lines
	};
}
