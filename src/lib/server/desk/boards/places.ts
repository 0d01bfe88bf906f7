import { boardKey, type BoardPlace } from '../../../core/audience/board-place';
import { may, scope } from '../../access/may';
import { schoolsOf } from '../../access/rights';
import type { User } from '../../access/user';
import { readDistrict } from '../../db/district';
import type { Query } from '../../db/open';
import { readSchoolsOwn } from '../../db/school-own';
import type { BoardLine } from './types';

/** A place with its name, and the school it belongs to; null for the district and for groups of it. */
export interface NamedPlace extends BoardPlace {
	readonly name: string;
	readonly school: string;
	readonly schoolId: number | null;
}

export const lineOfPlace = (place: NamedPlace): BoardLine => ({
	...{ key: boardKey(place), name: place.name, of: place.school }
});

const nameSql: Readonly<Record<Exclude<BoardPlace['kind'], 'district'>, string>> = {
	school: `SELECT id, name, '' AS school, id AS schoolId FROM school`,
	section: `SELECT section.id, section.name, school.name AS school, school.id AS schoolId FROM section
		JOIN course ON course.id = course_id JOIN school ON school.id = course.school_id`,
	group: `SELECT school_group.id, school_group.name, coalesce(school.name, '') AS school, school_id AS schoolId
		FROM school_group LEFT JOIN school ON school.id = school_id`
};

/** Places by their names, in the order in which they are given; what is not there is left out. */
export async function named(db: Query, places: readonly BoardPlace[]): Promise<NamedPlace[]> {
	const found = new Map<string, NamedPlace>();
	for (const kind of ['school', 'section', 'group'] as const) {
		const ids = places.filter((p) => p.kind === kind).map((p) => p.id);
		if (ids.length === 0) continue;
		const rows = await db.all<Omit<NamedPlace, 'kind'>>(
			`SELECT * FROM (${nameSql[kind]}) WHERE id IN (SELECT value FROM json_each($ids))`,
			{ ids: JSON.stringify(ids) }
		);
		for (const row of rows) found.set(boardKey({ kind, id: row.id }), { ...row, kind });
	}
	if (places.some((p) => p.kind === 'district')) {
		const { name } = await readDistrict(db);
		found.set('district', { ...{ kind: 'district', id: 0, name }, school: '', schoolId: null });
	}
	return places.flatMap((p) => found.get(boardKey(p)) ?? []);
}

/** Whose students a person reads boards for: those they have custody of and get correspondence for, and they themselves where they are a student. */
const studentsOf = `SELECT id FROM person_now WHERE id = $person AND kind = 'student'
	UNION SELECT student_id FROM contact_now WHERE person_id = $person AND custody AND correspondence`;

/** A place of a person's students, with those of them that are there. */
export interface PlaceOfPerson extends NamedPlace {
	readonly studentIds: readonly number[];
}

/**
 * The places whose boards a person reads: the district, and the schools, groups and sections of their students,
 * the widest first. With a term that is over, its sections alone.
 */
export async function placesOfPerson(
	db: Query,
	personId: number,
	today: string,
	termId: number | null = null
): Promise<PlaceOfPerson[]> {
	const term =
		termId === null
			? 'term.starts_on <= $today AND term.ends_on > $today'
			: 'term.id = $term AND term.ends_on <= $today';
	const wide =
		termId === null
			? `SELECT 'district' AS kind, 0 AS id, student.id AS studentId FROM mine AS student
		UNION ALL SELECT 'school', school_id, person.id FROM person JOIN mine USING (id) WHERE school_id IS NOT NULL
		UNION ALL SELECT 'group', group_id, person_id FROM group_member JOIN mine ON mine.id = person_id
			JOIN school_group ON school_group.id = group_id WHERE school_group.gone_at IS NULL
		UNION ALL`
			: '';
	const rows = await db.all<BoardPlace & { studentId: number }>(
		`WITH mine AS (${studentsOf})
		${wide} SELECT 'section' AS kind, section_id AS id, student_id AS studentId FROM enrolment_now AS enrolment
			JOIN mine ON mine.id = student_id JOIN section_now AS section ON section.id = section_id
			JOIN term ON term.id = term_id WHERE ${term}`,
		{ person: personId, today, ...(termId === null ? {} : { term: termId }) }
	);
	const students = new Map<string, { place: BoardPlace; ids: number[] }>();
	for (const { kind, id, studentId } of rows) {
		const key = boardKey({ kind, id });
		const known = students.get(key);
		if (known) known.ids.push(studentId);
		else students.set(key, { place: { kind, id }, ids: [studentId] });
	}
	const places = await named(
		db,
		[...students.values()].map((s) => s.place)
	);
	const rank = { district: 0, school: 1, group: 2, section: 3 } as const;
	return places
		.map((p) => ({ ...p, studentIds: students.get(boardKey(p))!.ids }))
		.sort((a, b) => rank[a.kind] - rank[b.kind] || a.name.localeCompare(b.name) || a.id - b.id);
}

/** Terms that are over in which a person's students were in sections, the newest first. */
export const termsOver = (
	db: Query,
	personId: number,
	today: string
): Promise<{ id: number; name: string }[]> =>
	db.all(
		`SELECT DISTINCT term.id, term.name FROM enrolment_now AS enrolment JOIN section_now AS section ON section.id = section_id
		JOIN term ON term.id = term_id WHERE term.ends_on <= $today AND student_id IN (${studentsOf})
		ORDER BY term.ends_on DESC`,
		{ person: personId, today }
	);

/** How many people have a board among their own. */
export async function readersOf(db: Query, { kind, id }: BoardPlace): Promise<number> {
	const students = {
		district: `SELECT id FROM person_now WHERE kind = 'student' AND $id = 0`,
		school: `SELECT id FROM person_now WHERE kind = 'student' AND school_id = $id`,
		section: 'SELECT student_id AS id FROM enrolment_now WHERE section_id = $id',
		group: 'SELECT person_id AS id FROM group_member WHERE group_id = $id'
	}[kind];
	const row = await db.one<{ n: number }>(
		`WITH there AS (${students}) SELECT count(*) AS n FROM (
			SELECT person_id FROM contact_now JOIN there ON there.id = student_id WHERE custody AND correspondence
			UNION SELECT id FROM person_now JOIN there USING (id) WHERE has_inbox)`,
		{ id }
	);
	return row!.n;
}

/** Of some places those whose boards a user may see, by their keys: what they write to, the schools they work at, and the district's. */
export async function placesSeen(
	db: Query,
	user: User,
	places: readonly NamedPlace[]
): Promise<ReadonlySet<string>> {
	const { sections, groups } = scope(user);
	const idsOf = (kind: NamedPlace['kind']) =>
		JSON.stringify(places.filter((p) => p.kind === kind).map((p) => p.id));
	const mine = await db.all<BoardPlace>(
		`SELECT 'section' AS kind, section.id FROM section JOIN course ON course.id = course_id
			WHERE section.id IN (SELECT value FROM json_each($sectionIds)) AND ${sections.sql}
		UNION ALL SELECT 'group', id FROM school_group WHERE id IN (SELECT value FROM json_each($groupIds)) AND ${groups.sql}`,
		{
			...{ sectionIds: idsOf('section'), groupIds: idsOf('group') },
			...{ ...sections.bind, ...groups.bind }
		}
	);
	const wide = places.filter(
		({ kind, id }) =>
			kind === 'district' ||
			(kind === 'school' && (may(user, 'look-after', id) || schoolsOf(user).includes(id)))
	);
	return new Set([...mine, ...wide].map(boardKey));
}

/** A place by its name, where a user may see its board; null else. */
export async function placeSeen(
	db: Query,
	user: User,
	place: BoardPlace
): Promise<NamedPlace | null> {
	const [found] = await named(db, [place]);
	if (!found) return null;
	return (await placesSeen(db, user, [found])).has(boardKey(found)) ? found : null;
}

/** Whether a user writes to everybody of a place that they see: then they may open its board and change what stands there. */
export const writesTo = (user: User, { kind, id }: NamedPlace): boolean =>
	kind === 'district'
		? may(user, 'write-to-school', null)
		: kind === 'school'
			? may(user, 'write-to-school', id)
			: may(user, 'write');

/** The school whose events and days without school a place has; null for the district's alone. */
export const placeSchool = ({ kind, id, schoolId }: NamedPlace): number | null =>
	kind === 'school' ? id : schoolId;

/** Whether a place lets anybody open its board who has the link: as its school says, else the district. */
export async function isOpenPlace(db: Query, { schoolId }: NamedPlace): Promise<boolean> {
	const { boards } = await readDistrict(db);
	const own = schoolId === null ? null : (await readSchoolsOwn(db)).get(schoolId)?.openBoards;
	return own ?? boards.open;
}
