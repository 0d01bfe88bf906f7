import { DateTime } from 'luxon';
import { dayLoad, loadOf, type DayLoad, type Load, type LoadEntry } from '../../core/plan/load';
import type { Roster } from '../../core/roster/roster';
import { localOf } from '../../core/time/local';
import type { LocalDay } from '../../core/time/zone';
import { readMany } from '../db/many';
import type { Db, Query } from '../db/open';
import { readRoster } from '../db/roster';
import { readTimes, type Times } from './times';

/** How many messages each person has had, or has waiting, on the day of an instant in a zone, whoever sent them; only people with more than one. */
export async function hadOnDayOf(
	db: Query,
	at: number,
	zone: string
): Promise<ReadonlyMap<number, number>> {
	const day = DateTime.fromMillis(at, { zone }).startOf('day');
	const dispatches = await db.all<{ id: number }>(
		`SELECT id FROM dispatch WHERE state != 'draft' AND leaves_at >= $from AND leaves_at < $to`,
		{ from: day.toMillis(), to: day.plus({ days: 1 }).toMillis() }
	);
	if (dispatches.length < 2) return new Map();
	const rows = await db.all<{ personId: number; n: number }>(
		`SELECT personId, count(DISTINCT dispatchId) AS n FROM (
			SELECT person_id AS personId, dispatch_id AS dispatchId FROM delivery
				WHERE dispatch_id IN (SELECT value FROM json_each($ids))
			UNION SELECT delivery_also.person_id, dispatch_id FROM delivery_also
				JOIN delivery ON delivery.id = delivery_id
				WHERE dispatch_id IN (SELECT value FROM json_each($ids)))
		GROUP BY personId HAVING n > 1`,
		{ ids: JSON.stringify(dispatches.map((d) => d.id)) }
	);
	return new Map(rows.map((r) => [r.personId, r.n]));
}

/** What one dispatch brings to which households on which local day. */
interface Reached {
	/** Tells whether its copies are still those that were counted. */
	readonly mark: string;
	readonly parts: readonly {
		readonly date: string;
		readonly households: Uint32Array;
		readonly texts: Uint8Array;
	}[];
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
	const ids = (await db.all<{ id: number }>('SELECT id FROM household ORDER BY id')).map(
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
	{ roster, zone, index, reached }: Known,
	dispatches: readonly { id: number; mark: string; copies: number }[]
): Promise<void> {
	const missing = dispatches.filter((d) => reached.get(d.id)?.mark !== d.mark);
	const dates = new Map<number, string>();
	const dateOf = (at: number): string => {
		// A local day begins on a whole quarter of an hour everywhere.
		const quarter = Math.floor(at / 900_000);
		let date = dates.get(quarter);
		if (date === undefined) dates.set(quarter, (date = localOf(at, zone).slice(0, 10)));
		return date;
	};
	for (let start = 0; start < missing.length;) {
		let end = start;
		for (let rows = 0; end < missing.length && (end === start || rows < rowsAtOnce); end += 1) {
			rows += missing[end]!.copies;
		}
		const part = missing.slice(start, end);
		start = end;
		const byDispatch = new Map(part.map((d) => [d.id, new Map<string, Map<number, number>>()]));
		const bind = { ids: JSON.stringify(part.map((d) => d.id)) };
		const take = (dispatchId: number, personId: number, text: number, at: number) => {
			const days = byDispatch.get(dispatchId)!;
			const date = dateOf(at);
			let homes = days.get(date);
			if (!homes) days.set(date, (homes = new Map()));
			for (const home of roster.householdsOf(personId)) {
				const h = index.get(home);
				if (h !== undefined) homes.set(h, (homes.get(h) ?? 0) + text);
			}
		};
		await readMany(
			db,
			'dispatch_id, person_id, text, due_at',
			`FROM (SELECT dispatch_id, person_id, way = 'text' AS text, due_at FROM delivery
				WHERE dispatch_id IN (SELECT value FROM json_each($ids)) AND state != 'spared'
				UNION ALL SELECT dispatch_id, delivery_also.person_id, 0, due_at FROM delivery_also
				JOIN delivery ON delivery.id = delivery_id
				WHERE dispatch_id IN (SELECT value FROM json_each($ids)) AND state != 'spared')`,
			([d, p, t, at]) => take(d as number, p as number, t as number, at as number),
			bind
		);
		for (const d of part) {
			reached.set(d.id, {
				mark: d.mark,
				parts: [...byDispatch.get(d.id)!].map(([date, homes]) => ({
					date,
					households: Uint32Array.from(homes.keys()),
					texts: Uint8Array.from(homes.values(), (n) => Math.min(255, n))
				}))
			});
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

/** Counts the load of some days, whoever sends: from the rows that are sent. */
export async function loadWindow(db: Db, days: readonly LocalDay[]): Promise<LoadWindow> {
	const times = await readTimes(db);
	const own = await knownOf(db, times.zone);
	// Quiet hours and pace can carry copies a little way past the day their dispatch leaves.
	// What was not needed when its turn came burdens nobody.
	const dispatches = await db.all<{ id: number; mark: string; copies: number }>(
		`SELECT id, plan || ' ' || (SELECT count(*) FROM delivery
				WHERE dispatch_id = dispatch.id AND state = 'spared') AS mark,
			(SELECT coalesce(sum(value), 0) FROM json_each(expected)) AS copies FROM dispatch
		WHERE state != 'draft' AND leaves_at >= $from AND leaves_at < $to`,
		{ from: days[0]!.from - 7 * 86_400_000, to: days.at(-1)!.to }
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
