import { comingStates } from '../../../core/audience/audience';
import type { User } from '../../access/user';
import type { Query } from '../../db/open';
import type { Asked } from '../sheet/asked';
import { standBefore, type Party as Place } from '../../../core/talk/seating';
import { stateSql } from '../../db/coming';
import type { ComingRow } from '../../db/models/coming';
import { informedBy, partiesSql, partyOfComing } from './parties';
import { askedSeen } from './reach';
import type { ComingLine, ComingList } from './types';

/** Which lines can be asked for. */
export const shownStates = ['all', ...comingStates] as const;

/** Which lines of the list are asked for. */
export interface ListFilter {
	readonly state: (typeof shownStates)[number];
	/** Of one time; 0 for all. */
	readonly slot: number;
	readonly search: string;
	readonly page: number;
}

const perPage = 50;

/** What every question here names: the invitation, and who has a copy of it for information. */
interface Bound {
	readonly dispatch: number;
	readonly informed: string;
}
const boundTo = async (db: Query, asked: Asked): Promise<Bound> => ({
	dispatch: asked.id,
	informed: await informedBy(db, asked)
});

type Row = Pick<ComingRow, 'slot' | 'people' | 'at' | 'how'> & {
	readonly comingId: number | null;
	readonly party: number | null;
	readonly guestId: number | null;
	readonly state: ComingLine['state'];
	readonly studentsComing: number | null;
	readonly by: string | null;
	readonly guest: string | null;
	readonly address: string | null;
	/** JSON lists. */
	readonly names: string | null;
	readonly home: string | null;
	readonly found: number;
};

/** All who were asked, and guests, each once with what they said: `line` in SQL. */
const linesSql = `${partiesSql},
	people AS (SELECT party, min(family_name || ' ' || given_name) AS sorted,
			json_group_array(given_name || ' ' || family_name) AS names
		FROM party JOIN person ON person.id = person_id GROUP BY party),
	line AS (SELECT coming.id AS comingId, ${partyOfComing} AS party, guest_id AS guestId,
			${stateSql} AS state,
			slot, coming.people, students AS studentsComing, turn, at, how, by_id
		FROM coming WHERE dispatch_id = $dispatch
		UNION ALL SELECT NULL, party, NULL, 'unsaid', 0, 0, NULL, 0, NULL, NULL, NULL FROM people
			WHERE party NOT IN (SELECT ${partyOfComing} FROM coming WHERE dispatch_id = $dispatch AND guest_id IS NULL))`;

/** In which order: those in line by their turn, everybody else by name. */
const order = `ORDER BY CASE state WHEN 'comes' THEN 0 WHEN 'waits' THEN 1 WHEN 'not' THEN 2 ELSE 3 END,
	CASE WHEN state IN ('comes', 'waits') THEN slot END, CASE WHEN state = 'waits' THEN turn END, sorted, line.party`;

/** Whether a line is of somebody with these letters in their name, or in that of a student of theirs. */
const named = `($search = '' OR guest.name LIKE $like ESCAPE '!' OR names LIKE $like ESCAPE '!' OR line.party IN (
	SELECT party FROM party JOIN contact_now ON contact_now.person_id = party.person_id JOIN person AS student ON student.id = student_id
		WHERE student.given_name || ' ' || student.family_name LIKE $like ESCAPE '!'))`;

async function rowsOf(
	db: Query,
	bound: Bound,
	{ state, slot, search }: Omit<ListFilter, 'page'>,
	{ limit, offset }: { readonly limit: number; readonly offset: number }
): Promise<Row[]> {
	return db.all<Row>(
		`WITH ${linesSql}
		SELECT comingId, line.party, guestId, state, slot, line.people, studentsComing, at, how,
			coalesce(names, (SELECT json_array(given_name || ' ' || family_name) FROM person WHERE id = -line.party)) AS names,
			by.given_name || ' ' || by.family_name AS by, guest.name AS guest, guest.address, household.name AS home,
			coalesce(people.sorted, guest.name, household.name, '') AS sorted, count(*) OVER () AS found
		FROM line LEFT JOIN people ON people.party = line.party LEFT JOIN coming_guest AS guest ON guest.id = guestId
		LEFT JOIN household ON household.id = line.party LEFT JOIN person AS by ON by.id = by_id
		WHERE ($state = 'all' OR state = $state) AND ($slot = 0 OR (slot = $slot AND state IN ('comes', 'waits'))) AND ${named}
		${order} LIMIT $limit OFFSET $offset`,
		{
			...{ ...bound, state, slot, search },
			like: `%${search.replace(/[!%_]/g, '!$&')}%`,
			...{ limit, offset }
		}
	);
}

/** Students of whom the copies of some parties speak, by party. */
async function studentsOf(
	db: Query,
	bound: Bound,
	parties: readonly number[]
): Promise<Map<number, string[]>> {
	const rows = await db.all<{ party: number; name: string }>(
		`WITH ${partiesSql}
		SELECT DISTINCT party, student.given_name || ' ' || student.family_name AS name
		FROM party JOIN delivery ON delivery.person_id = party.person_id AND dispatch_id = $dispatch
		JOIN delivery_student ON delivery_id = delivery.id JOIN person AS student ON student.id = student_id
		WHERE party IN (SELECT value FROM json_each($parties)) ORDER BY student.given_name, student.id`,
		{ ...bound, parties: JSON.stringify(parties) }
	);
	const of = new Map<number, string[]>();
	for (const { party, name } of rows) of.set(party, [...(of.get(party) ?? []), name]);
	return of;
}

/** Where those who wait stand, by the number of their answer, from 1. */
async function placesInLine(
	db: Query,
	{ dispatch: id }: Bound,
	waits: boolean
): Promise<(id: number) => number> {
	if (!waits) return () => 0;
	const rows = await db.all<Omit<Place, 'seated'>>(
		'SELECT id, slot, people, turn FROM coming WHERE dispatch_id = $id AND comes AND NOT seated',
		{ id }
	);
	const line = rows.map((r): Place => ({ ...r, seated: false }));
	return (of) => standBefore(line, of) + 1;
}

/** Rows as lines that are read. */
async function linesOf(db: Query, bound: Bound, rows: readonly Row[]): Promise<ComingLine[]> {
	const students = await studentsOf(
		db,
		bound,
		rows.flatMap((r) => (r.party === null ? [] : [r.party]))
	);
	const inLine = await placesInLine(
		db,
		bound,
		rows.some((r) => r.state === 'waits')
	);
	return rows.map((row): ComingLine => ({
		key:
			row.guestId !== null
				? `guest ${row.guestId}`
				: row.party! > 0
					? `household ${row.party!}`
					: `person ${-row.party!}`,
		names:
			row.guestId !== null
				? [row.guest ?? '']
				: row.names === null
					? [row.home ?? '']
					: (JSON.parse(row.names) as string[]),
		students: row.party === null ? [] : (students.get(row.party) ?? []),
		state: row.state,
		people: row.people,
		studentsComing: row.studentsComing,
		slot: row.slot,
		inLine: row.state === 'waits' ? inLine(row.comingId!) : 0,
		at: row.at,
		how: row.how,
		by: row.by ?? row.guest ?? '',
		address: row.address ?? ''
	}));
}

/** A page of who said what to an invitation; null for whoever may not see it. */
export async function comingList(
	db: Query,
	user: User,
	id: number,
	filter: ListFilter
): Promise<ComingList | null> {
	const asked = await askedSeen(db, user, id);
	if (!asked) return null;
	const bound = await boundTo(db, asked);
	const at = (page: number) =>
		rowsOf(db, bound, filter, { limit: perPage, offset: (page - 1) * perPage });
	let rows = await at(filter.page);
	let { page } = filter;
	// What is past the end shows the first page.
	if (rows.length === 0 && page > 1) {
		page = 1;
		rows = await at(1);
	}
	return {
		...{ page, perPage, found: rows[0]?.found ?? 0 },
		lines: await linesOf(db, bound, rows)
	};
}

/** Whoever comes and whoever stands in line, for the door: all of them. */
export async function linesForDoor(db: Query, asked: Asked): Promise<ComingLine[]> {
	const bound = await boundTo(db, asked);
	const all = { slot: 0, search: '' } as const;
	const some = { limit: -1, offset: 0 };
	const rows = [
		...(await rowsOf(db, bound, { ...all, state: 'comes' }, some)),
		...(await rowsOf(db, bound, { ...all, state: 'waits' }, some))
	];
	return linesOf(db, bound, rows);
}
