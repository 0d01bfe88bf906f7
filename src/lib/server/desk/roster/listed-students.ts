import type { ListLine, NamedStudent } from '../../../core/format/contact-list/line';
import type { Came } from '../../../core/format/oneroster/book';
import type { Fault, Wrong } from '../../../core/format/oneroster/fault';
import { fold } from '../../../core/format/fold';
import { groupBy } from '../../../core/group-by';
import { gradeLevelOf } from '../../../core/roster/grade';
import { homeKey } from '../../../core/roster/list/from-list';
import type { Query } from '../../db/open';
import { rowOfOwnKey } from './own-keys';
import type { Known } from './known';

interface Student {
	readonly id: number;
	readonly name: string;
	readonly grade: string | null;
	readonly school: string;
	readonly schoolShort: string;
}

/** What a contact list says, with its students found here. */
export interface Placed {
	readonly came: Came;
	readonly faults: readonly Fault[];
	/** Names of the students, by the keys under which the list has them. */
	readonly names: ReadonlyMap<string, string>;
}

/**
 * Finds the students whom the lines of a contact list name: by the district's number, a key of ours, or one
 * under which a roster has them, else by name with grade and school. Lines whose student is not here, or may
 * be several, stay out.
 */
export async function placeStudents(
	db: Query,
	came: Came,
	known: Known,
	secret: Buffer
): Promise<Placed> {
	const contacts = came.contacts;
	if (!contacts) return { came, faults: [], names: new Map() };
	const byKey = groupBy(contacts.lines.values(), (line) => line.student);
	const find = await studentFinder(
		db,
		[...byKey.values()].map((lines) => lines[0]!.named.number),
		secret
	);
	const before = await studentsByKey(db, known, [...byKey.keys()]);
	const faults: Fault[] = [];
	const names = new Map<string, string>();
	const lines = new Map<string, ListLine>(contacts.lines);
	const out = new Map(contacts.out);
	const fault = (line: ListLine, wrong: Wrong, rest: boolean) =>
		faults.push({ file: 'contacts', line: contacts.at.get(line.id)!, id: line.id, wrong, rest });
	const found: { key: string; student: Student }[] = [];
	for (const [key, of] of byKey) {
		const earlier = before.get(key);
		const students = earlier ? [earlier] : find(of[0]!.named);
		const [student] = students;
		if (student && students.length === 1) {
			names.set(key, student.name);
			found.push({ key, student });
			if (known.idOf('person', key) === undefined) known.bind('person', key, student.id);
			continue;
		}
		const value = of[0]!.named.number || of[0]!.named.name;
		for (const line of of) {
			fault(
				line,
				student
					? { code: 'several-students', value, students: students.length }
					: { code: 'no-student', value },
				false
			);
			lines.delete(line.id);
			out.set(line.id, contacts.at.get(line.id)!);
		}
	}
	const homes = await homesOf(
		db,
		found.map((f) => f.student.id)
	);
	for (const { key, student } of found) {
		const own = homes.get(student.id) ?? [];
		if (own.length === 1 && known.idOf('household', homeKey(key)) === undefined)
			known.bind('household', homeKey(key), own[0]!);
		if (own.length < 2) continue;
		for (const line of byKey.get(key)!) {
			if (!line.livesWith) continue;
			fault(line, { code: 'two-homes' }, true);
			lines.set(line.id, { ...line, livesWith: false });
		}
	}
	return { came: { ...came, contacts: { ...contacts, lines, out } }, faults, names };
}

/** Students whom the list has named before, as they are now. */
async function studentsByKey(
	db: Query,
	known: Known,
	keys: readonly string[]
): Promise<ReadonlyMap<string, Student>> {
	const ids = new Map(
		keys.flatMap((key) => {
			const id = known.idOf('person', key);
			return id === undefined ? [] : [[id, key] as const];
		})
	);
	const rows = await db.all<Student>(
		`SELECT person.id, given_name || ' ' || family_name AS name, grade_level AS grade,
			coalesce(school.name, '') AS school, coalesce(short_name, '') AS schoolShort
		FROM person_now AS person LEFT JOIN school ON school.id = school_id
		WHERE kind = 'student' AND person.id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify([...ids.keys()]) }
	);
	return new Map(rows.map((row) => [ids.get(row.id)!, row]));
}

async function homesOf(db: Query, students: readonly number[]): Promise<Map<number, number[]>> {
	const rows = await db.all<{ student: number; home: number }>(
		`SELECT person_id AS student, household_id AS home FROM household_member
		JOIN household_now ON household_now.id = household_id
		WHERE person_id IN (SELECT value FROM json_each($students)) ORDER BY household_id`,
		{ students: JSON.stringify(students) }
	);
	return new Map(
		[...groupBy(rows, (r) => r.student)].map(([id, of]) => [id, of.map((r) => r.home)])
	);
}

/** Finds the students whom a list may mean. */
type Find = (named: NamedStudent) => readonly Student[];

/** A look-up of students by what lists say of them; `numbers` are all that it will be asked for. */
export async function studentFinder(
	db: Query,
	numbers: readonly string[],
	secret: Buffer
): Promise<Find> {
	const rows = await db.all<Student & { identifier: string | null }>(
		`SELECT person.id, given_name || ' ' || family_name AS name, grade_level AS grade, identifier,
			coalesce(school.name, '') AS school, coalesce(short_name, '') AS schoolShort
		FROM person_now AS person LEFT JOIN school ON school.id = school_id WHERE kind = 'student'`
	);
	const byId = new Map(rows.map((r) => [r.id, r]));
	const byNumber = groupBy(
		rows.filter((r) => r.identifier !== null),
		(r) => r.identifier!
	);
	const keys = await db.all<{ key: string; id: number }>(
		`SELECT key, row_id AS id FROM known_as WHERE kind = 'person' AND key IN (SELECT value FROM json_each($numbers))`,
		{ numbers: JSON.stringify(numbers.filter(Boolean)) }
	);
	const byRosterKey = groupBy(keys, (k) => k.key);
	const byName = groupBy(rows, (r) => fold(r.name));
	return (named) => {
		if (named.number !== '') {
			const own = byNumber.get(named.number) ?? [];
			if (own.length > 0) return own;
			const signed = byId.get(rowOfOwnKey(secret, 'person', named.number) ?? 0);
			if (signed) return [signed];
			const ids = new Set((byRosterKey.get(named.number) ?? []).map((k) => k.id));
			return [...ids].flatMap((id) => byId.get(id) ?? []);
		}
		const grade = named.grade === '' ? null : gradeLevelOf(named.grade);
		const school = fold(named.school);
		return (byName.get(fold(nameOf(named.name))) ?? []).filter(
			(s) =>
				(grade === null || s.grade === grade) &&
				(school === '' || fold(s.school) === school || fold(s.schoolShort) === school)
		);
	};
}

/** "Amaro, Ana" is Ana Amaro. */
function nameOf(said: string): string {
	const [family, given] = said.split(/,\s*/, 2);
	return given === undefined ? said : `${given} ${family}`;
}
