import { writeDown } from '../../access/log';
import { may, scope } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { rowSet } from '../../db/many';
import { markerStands } from '../../db/markers';
import {
	marker as markerTable,
	type MarkHow,
	type MarkedRow,
	type MarkerRow
} from '../../db/models/roster';
import type { Db, Query } from '../../db/open';
import type { Said } from '../../said';

/** A marker that is changed, in one transaction. */
export interface Marking {
	readonly marker: MarkerRow;
	/** What it says of some of the user's own students, those it could be about; who is not asked for is not in it. */
	readonly here: ReadonlyMap<number, MarkedHere>;
	/** Sets what it says of a student. */
	put(row: Pick<MarkedRow, 'studentId' | 'value' | 'listed'>, how: MarkHow): void;
}

/** A student who could have a marker, with what it says of them; `how` is null where nobody has said anything. */
export interface MarkedHere extends Pick<MarkedRow, 'value' | 'listed'> {
	readonly how: MarkHow | null;
	readonly name: string;
}

export const notThere = {
	ok: false,
	why: 'There is no such marker, or it has ended. Load the page again.'
} as const;

/** A marker that a user can use today; null where there is none. */
export async function markerOf(db: Query, user: User, id: number): Promise<MarkerRow | null> {
	const [mine, stands] = [scope(user).markers, await markerStands(db)];
	const row = await db.one<{ id: number }>(
		`SELECT marker.id FROM marker WHERE marker.id = $id AND ${mine.sql} AND ${stands.sql}`,
		{ id, ...mine.bind, ...stands.bind }
	);
	return row ? ((await db.rows(markerTable).one({ id })) ?? null) : null;
}

/** A condition on `person` for the students of a user whom a marker could be about. */
export function couldHave(
	user: User,
	{ schoolId }: Pick<MarkerRow, 'schoolId'>
): { sql: string; bind: Record<string, string | number | null> } {
	const seen = scope(user).people('person.id', 'write');
	return {
		sql: `(person.kind = 'student' AND ($ofSchool IS NULL OR person.school_id = $ofSchool) AND ${seen.sql})`,
		bind: { ofSchool: schoolId, ...(seen.bind as Record<string, string | number | null>) }
	};
}

/** What a marker says of some of a user's students whom it could be about; null for all of them. */
export async function marksHere(
	db: Query,
	user: User,
	marker: MarkerRow,
	students: readonly number[] | null
): Promise<ReadonlyMap<number, MarkedHere>> {
	const could = couldHave(user, marker);
	const found = await db.all<MarkedHere & { id: number }>(
		`SELECT person.id, given_name || ' ' || family_name AS name, value, listed, how
		FROM person_now AS person LEFT JOIN marked ON marker_id = $markerId AND student_id = person.id
		WHERE ${could.sql} ${students ? 'AND person.id IN (SELECT value FROM json_each($students))' : ''}`,
		{
			...{ markerId: marker.id, ...could.bind },
			...(students ? { students: JSON.stringify(students) } : {})
		}
	);
	return new Map(found.map(({ id, ...one }) => [id, one]));
}

const rows = rowSet('$rows', ['student_id', 'value', 'listed', 'how']);
const lines = rowSet('$rows', ['student_id', 'before', 'after']);

/** What a marker says, as it is written down with a person: "museum slip: yes". */
const said = (name: string, value: string | null) => (value === null ? null : `${name}: ${value}`);

/**
 * The one door for what a marker says: whoever uses it is asked for their right, no student is touched
 * who is not theirs, each change is written down with their name, and whatever rests on the marker is told.
 * `students` are those who are asked about; none for all of them.
 */
export async function marking<T>(
	db: Db,
	user: User,
	markerId: number,
	students: readonly number[] | null,
	work: (marking: Marking) => Said<T>
): Promise<Said<T>> {
	return db.write(async (tx): Promise<Said<T>> => {
		const marker = await markerOf(tx, user, markerId);
		if (!marker) return notThere;
		const here = await marksHere(tx, user, marker, students);
		const puts: {
			student_id: number;
			value: string | null;
			listed: string | null;
			how: MarkHow;
		}[] = [];
		const done = work({
			marker,
			here,
			put: ({ studentId, value, listed }, how) =>
				void puts.push({ student_id: studentId, value, listed, how })
		});
		if (!done.ok || puts.length === 0) return done;
		const at = Math.round(await now(tx));
		const by = { at, by: user.personId };
		await tx.run(
			`INSERT INTO marked (marker_id, student_id, value, listed, how, since, by_id)
			SELECT $markerId, student_id, value, listed, how, $at, $by FROM ${rows.table} WHERE 1
			ON CONFLICT (marker_id, student_id) DO UPDATE SET value = excluded.value, listed = excluded.listed,
				how = excluded.how,
				since = CASE WHEN value IS excluded.value THEN since ELSE excluded.since END,
				by_id = CASE WHEN value IS excluded.value THEN by_id ELSE excluded.by_id END`,
			{ markerId, rows: rows.json(puts), ...by }
		);
		const changed = puts.flatMap(({ student_id, value }) => {
			const before = here.get(student_id)!.value;
			return before === value
				? []
				: { student_id, before: said(marker.name, before), after: said(marker.name, value) };
		});
		await tx.run(
			`INSERT INTO person_change (at, by_id, person_id, field, before, after)
			SELECT $at, $by, student_id, 'marker', before, after FROM ${lines.table}`,
			{ rows: lines.json(changed), ...by }
		);
		await writeDown(tx, {
			...{ act: 'marker-changed', by: user, to: ['marker', markerId], schoolId: marker.schoolId },
			after: { students: changed.length }
		});
		await tx.run(
			`INSERT OR IGNORE INTO gained (standing_id, student_id, at)
			SELECT standing.id, student_id, $at FROM standing JOIN ${lines.table}
			WHERE marker_id = $markerId AND ended_at IS NULL AND ends_at > $at
				AND before IS NULL AND after IS NOT NULL`,
			{ markerId, at, rows: lines.json(changed) }
		);
		await tx.run('UPDATE marker SET version = version + 1 WHERE id = $markerId', { markerId });
		return done;
	});
}

/** Whether a user may give a marker up: whoever made it, the office of its school, the district office. */
export const mayGiveUp = (
	user: User,
	{ madeBy, schoolId }: Pick<MarkerRow, 'madeBy' | 'schoolId'>
) => may(user, 'handle', madeBy) || may(user, 'look-after', schoolId);
