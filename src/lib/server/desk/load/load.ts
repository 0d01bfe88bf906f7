import { dayLoad, loadOf, type DayLoad, type Load, type LoadEntry } from '../../../core/plan/load';
import type { Roster } from '../../../core/roster/roster';
import { localOf } from '../../../core/time/local';
import type { TimedManifest } from '../../../core/plan/times';
import { localDays, type LocalDay } from '../../../core/time/zone';
import { readMany } from '../../db/many';
import type { Db, Query } from '../../db/open';
import { readRoster } from '../../db/roster';
import { readTimes, type Times } from '../../db/calendar';
import type { HeavyDay } from './types';
import type { DispatchRow } from '../../db/models/dispatch';
import type { HouseholdRow } from '../../db/models/roster';

/** Dispatches some of whose copies may be due between two instants: they leave before its end, and their last copy is not due before its start. */
const dueBetween = `state != 'draft' AND kind != 'answer' AND leaves_at < $to AND max(leaves_at, coalesce(last_due, leaves_at)) >= $from`;

/** So few people are looked up one by one; of more, all that is due on the day is read. */
const fewPeople = 5_000;

/** How many messages some people have had, or have waiting, on a local day, whoever sent them, their digest as one; only those with more than one. */
async function hadOn(
	db: Query,
	people: ReadonlySet<number>,
	{ from, to }: LocalDay,
	most: number
): Promise<{ personId: number; n: number }[]> {
	const dispatches = await db.all<Pick<DispatchRow, 'id'>>(
		`SELECT id FROM dispatch WHERE ${dueBetween}`,
		{
			from,
			to
		}
	);
	if (dispatches.length < 2) return [];
	const few = people.size <= most;
	const by = (person: string) =>
		few ? `${person} IN (SELECT value FROM json_each($people)) AND` : '';
	const due = `dispatch_id IN (SELECT value FROM json_each($ids)) AND due_at >= $from AND due_at < $to
		AND state != 'spared'`;
	const rows = await db.all<{ personId: number; n: number }>(
		`SELECT personId, sum(digest = 0) + max(digest) AS n FROM (
			SELECT personId, dispatchId, min(digest) AS digest FROM (
				SELECT person_id AS personId, dispatch_id AS dispatchId, in_digest AS digest FROM delivery ${few ? 'INDEXED BY delivery_person' : ''}
					WHERE ${by('person_id')} ${due}
				UNION ALL SELECT delivery_also.person_id, dispatch_id, in_digest FROM delivery_also
					JOIN delivery ON delivery.id = delivery_id
					WHERE ${by('delivery_also.person_id')} ${due})
			GROUP BY personId, dispatchId)
		GROUP BY personId HAVING n > 1`,
		{
			ids: JSON.stringify(dispatches.map((d) => d.id)),
			...(few ? { people: JSON.stringify([...people]) } : {}),
			...{ from, to }
		}
	);
	return few ? rows : rows.filter((row) => people.has(row.personId));
}

/** More days than this a dispatch is not spread over, but by closures. */
const mostDays = 4;

/** Of the days on which the copies of a manifest are due, the one on which most of their readers have `limit` messages already. */
export async function heaviestDay(
	db: Query,
	{ copies, dueAt }: Pick<TimedManifest, 'copies' | 'dueAt'>,
	limit: number,
	zone: string,
	few = fewPeople
): Promise<HeavyDay | null> {
	const readers = new Map<string, Set<number>>();
	const dateOf = datesIn(zone);
	copies.forEach((copy, i) => {
		const date = dateOf(dueAt[i]!);
		let people = readers.get(date);
		if (!people) readers.set(date, (people = new Set()));
		people.add(copy.personId);
		copy.alsoFor.forEach((id) => people.add(id));
	});
	let heaviest: HeavyDay | null = null;
	const dates = [...readers].sort((a, b) => b[1].size - a[1].size).slice(0, mostDays);
	for (const [date, people] of dates) {
		const [day] = localDays(date, 1, zone);
		const n = (await hadOn(db, people, day!, few)).filter((had) => had.n >= limit).length;
		if (n > (heaviest?.people ?? 0)) heaviest = { at: day!.from, people: n };
	}
	return heaviest;
}

/** The local date of an instant, looked up once for each quarter of an hour: a local day begins on a whole one everywhere. */
function datesIn(zone: string): (at: number) => string {
	const dates = new Map<number, string>();
	return (at) => {
		const quarter = Math.floor(at / 900_000);
		let date = dates.get(quarter);
		if (date === undefined) dates.set(quarter, (date = localOf(at, zone).slice(0, 10)));
		return date;
	};
}

/** What one dispatch brings to which households on which local day. */
interface Reached {
	/** Tells whether its copies are still those that were counted. */
	readonly mark: string;
	readonly parts: readonly {
		readonly date: string;
		readonly households: Uint32Array;
		/** Those it reaches in a daily digest and not otherwise. */
		readonly digest: Uint32Array;
		readonly texts: number;
	}[];
}

/** One copy for one reader, as the load counts it. */
interface Brought {
	readonly personId: number;
	readonly at: number;
	readonly text: boolean;
	readonly digest: boolean;
}

/** Puts copies together by local day: which households they reach, and how. */
function byDays(
	{ roster, index }: Pick<Known, 'roster' | 'index'>,
	dateOf: (at: number) => string
): { take(copy: Brought): void; parts(): Reached['parts'] } {
	const days = new Map<string, { homes: Set<number>; digest: Set<number>; texts: number }>();
	return {
		take({ personId, at, text, digest }) {
			const date = dateOf(at);
			let day = days.get(date);
			if (!day) days.set(date, (day = { homes: new Set(), digest: new Set(), texts: 0 }));
			if (text) day.texts += 1;
			for (const home of roster.householdsOf(personId)) {
				const h = index.get(home);
				if (h !== undefined) (digest ? day.digest : day.homes).add(h);
			}
		},
		parts: () =>
			[...days].map(([date, { homes, digest, texts }]) => ({
				date,
				households: Uint32Array.from(homes),
				digest: Uint32Array.from([...digest].filter((h) => !homes.has(h))),
				texts
			}))
	};
}

interface Known {
	readonly roster: Roster;
	readonly zone: string;
	readonly ids: readonly number[];
	readonly index: ReadonlyMap<number, number>;
	readonly reached: Map<number, Reached>;
}
/** What was counted of each dispatch; it stays true until its copies are planned anew. */
const known = new WeakMap<Db, Known>();

async function knownOf(db: Db, zone: string): Promise<Known> {
	const roster = await readRoster(db);
	const before = known.get(db);
	if (before && before.roster === roster && before.zone === zone) return before;
	const ids = (await db.all<Pick<HouseholdRow, 'id'>>('SELECT id FROM household ORDER BY id')).map(
		(h) => h.id
	);
	const next: Known = {
		roster,
		zone,
		ids,
		index: new Map(ids.map((id, i) => [id, i])),
		// A changed address changes no household: what was counted is still true.
		reached:
			before && before.zone === zone && before.ids.length === ids.length
				? before.reached
				: new Map()
	};
	known.set(db, next);
	return next;
}

/** Copies read at once, so that no one text of them grows without measure. */
const rowsAtOnce = 200_000;

/** Counts what is not counted yet of some dispatches. */
async function count(
	db: Db,
	own: Known,
	dispatches: readonly { id: number; mark: string; copies: number }[]
): Promise<void> {
	const missing = dispatches.filter((d) => own.reached.get(d.id)?.mark !== d.mark);
	const dateOf = datesIn(own.zone);
	for (let start = 0; start < missing.length;) {
		let end = start;
		for (let rows = 0; end < missing.length && (end === start || rows < rowsAtOnce); end += 1) {
			rows += missing[end]!.copies;
		}
		const part = missing.slice(start, end);
		start = end;
		const byDispatch = new Map(part.map((d) => [d.id, byDays(own, dateOf)]));
		await readMany(
			db,
			'dispatch_id, person_id, text, due_at, in_digest',
			`FROM (SELECT dispatch_id, person_id, way = 'text' AS text, due_at, in_digest FROM delivery
				WHERE dispatch_id IN (SELECT value FROM json_each($ids)) AND state != 'spared'
				UNION ALL SELECT dispatch_id, delivery_also.person_id, 0, due_at, in_digest FROM delivery_also
				JOIN delivery ON delivery.id = delivery_id
				WHERE dispatch_id IN (SELECT value FROM json_each($ids)) AND state != 'spared')`,
			([dispatchId, personId, text, at, digest]) =>
				byDispatch.get(dispatchId as number)!.take({
					...{ personId: personId as number, at: at as number },
					...{ text: text === 1, digest: digest === 1 }
				}),
			{ ids: JSON.stringify(part.map((d) => d.id)) }
		);
		for (const { id, mark } of part) {
			own.reached.set(id, { mark, parts: byDispatch.get(id)!.parts() });
		}
	}
}

/** The load of some days. */
export interface LoadWindow {
	readonly days: readonly LocalDay[];
	readonly load: Load;
	readonly entries: readonly LoadEntry[];
	readonly households: readonly number[];
	readonly times: Times;
}

/** What changes with a dispatch's copies, and how many there are. */
const markColumn = `plan || ' ' || (SELECT count(*) FROM delivery
		WHERE dispatch_id = dispatch.id AND state = 'spared') AS mark,
	(SELECT coalesce(sum(value), 0) FROM json_each(expected)) AS copies`;

/** Counts the load of some days, whoever sends: from the rows that are sent. */
export async function loadWindow(db: Db, days: readonly LocalDay[]): Promise<LoadWindow> {
	const times = await readTimes(db);
	const own = await knownOf(db, times.zone);
	// What was not needed when its turn came burdens nobody.
	const dispatches = await db.all<Pick<DispatchRow, 'id'> & { mark: string; copies: number }>(
		`SELECT id, ${markColumn} FROM dispatch
		WHERE ${dueBetween}`,
		{ from: days[0]!.from, to: days.at(-1)!.to }
	);
	await count(db, own, dispatches);
	const indexOf = new Map(days.map((d, i) => [d.date, i]));
	const entries: LoadEntry[] = [];
	for (const d of dispatches) {
		for (const part of own.reached.get(d.id)!.parts) {
			const day = indexOf.get(part.date);
			if (day !== undefined) entries.push({ dispatchId: d.id, day, ...part });
		}
	}
	return {
		days,
		entries,
		households: own.ids,
		times,
		load: loadOf(entries, days.length, own.ids.length)
	};
}

export const dayLoads = ({ load, times, days }: LoadWindow): DayLoad[] =>
	days.map((_, i) => dayLoad(load, i, times.loadLimit));

/** What some copies bring to which households, by local date: of a plan that is not written down. */
export async function loadOfPlan(
	db: Db,
	{ copies, dueAt, inDigest }: Pick<TimedManifest, 'copies' | 'dueAt' | 'inDigest'>
): Promise<Reached['parts']> {
	const { zone } = await readTimes(db);
	const days = byDays(await knownOf(db, zone), datesIn(zone));
	copies.forEach(({ way, personId, alsoFor }, i) => {
		const [at, digest] = [dueAt[i]!, inDigest[i]!];
		days.take({ personId, at, digest, text: way === 'text' });
		for (const id of alsoFor) days.take({ personId: id, at, digest, text: false });
	});
	return days.parts();
}

/** The same of one dispatch that is written down. */
export async function loadOfDispatch(db: Db, dispatchId: number): Promise<Reached['parts']> {
	const { zone } = await readTimes(db);
	const own = await knownOf(db, zone);
	const row = await db.one<Pick<DispatchRow, 'id'> & { mark: string; copies: number }>(
		`SELECT id, ${markColumn} FROM dispatch WHERE id = $id`,
		{ id: dispatchId }
	);
	if (!row) return [];
	await count(db, own, [row]);
	return own.reached.get(dispatchId)!.parts;
}
