import { DateTime } from 'luxon';
import {
	bestMoves,
	dayLoad,
	effectOf,
	loadOf,
	mostLoaded,
	type DayLoad,
	type Load,
	type LoadEntry,
	type Movable
} from '../../core/plan/load';
import type { Roster } from '../../core/roster/roster';
import { nameOf } from '../../core/roster/relation';
import { leadMinutes } from '../../core/time/hold';
import { localOf } from '../../core/time/local';
import { localDays, type LocalDay } from '../../core/time/zone';
import { dispatchCondition, rightsBind, studentsAllowed } from '../access/rights';
import type { User } from '../access/sessions';
import { now } from '../clock';
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
	readonly plan: number;
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
	dispatches: readonly { id: number; plan: number; copies: number }[]
): Promise<void> {
	const missing = dispatches.filter((d) => reached.get(d.id)?.plan !== d.plan);
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
				WHERE dispatch_id IN (SELECT value FROM json_each($ids))
				UNION ALL SELECT dispatch_id, delivery_also.person_id, 0, due_at FROM delivery_also
				JOIN delivery ON delivery.id = delivery_id WHERE dispatch_id IN (SELECT value FROM json_each($ids)))`,
			([d, p, t, at]) => take(d as number, p as number, t as number, at as number),
			bind
		);
		for (const d of part) {
			reached.set(d.id, {
				plan: d.plan,
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
	const dispatches = await db.all<{ id: number; plan: number; copies: number }>(
		`SELECT id, plan, (SELECT coalesce(sum(value), 0) FROM json_each(expected)) AS copies FROM dispatch
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

/** A dispatch that may still be moved, as far as moving it is weighed. */
interface MovableRow {
	readonly id: number;
	readonly subject: string;
	readonly leavesAt: number;
	readonly endsAt: number | null;
	readonly changedAt: number;
	readonly eventId: number | null;
}

const movableRows = (db: Db, user: User): Promise<MovableRow[]> =>
	db.all<MovableRow>(
		`SELECT dispatch.id, subject, leaves_at AS leavesAt, ends_at AS endsAt, changed_at AS changedAt,
			round.event_id AS eventId FROM dispatch LEFT JOIN round ON round.id = round_id
		WHERE state = 'scheduled' AND waits IS NULL AND json_extract(dispatch.timing, '$.when.kind') = 'at'
			AND coalesce(json_extract(dispatch.timing, '$.urgent'), 0) = 0
			${user.role === 'coordinator' ? '' : 'AND sender_id = $user'}`,
		user.role === 'coordinator' ? {} : { user: user.personId }
	);

/** Days by which a dispatch may be moved within a window: to school days, half an hour ahead at least, and not past its end. */
function allowedDays(row: MovableRow, { days, times }: LoadWindow, time: number): number[] {
	const { zone } = times;
	const from = DateTime.fromMillis(row.leavesAt, { zone });
	const here = days.findIndex((d) => row.leavesAt >= d.from && row.leavesAt < d.to);
	if (here < 0) return [];
	return days.flatMap((day, i) => {
		if (i === here || !times.isSchoolDay(day.date)) return [];
		const at = from.plus({ days: i - here }).toMillis();
		return at < time + leadMinutes * 60_000 || (row.endsAt !== null && at >= row.endsAt)
			? []
			: [i - here];
	});
}

/** A move that would bring the load down, ready to be made. */
export interface SuggestedMove {
	readonly dispatchId: number;
	readonly subject: string;
	readonly from: number;
	/** Local time it would be moved to, and the instant. */
	readonly toLocal: string;
	readonly to: number;
	/** Messages over the limit that it takes away. */
	readonly relief: number;
	readonly base: number;
}

/** What to move, and where to, so that the load comes down most: every allowed day of everything movable is tried. */
export async function suggestedMoves(
	db: Db,
	user: User,
	window: LoadWindow
): Promise<SuggestedMove[]> {
	const time = await now(db);
	const { zone } = window.times;
	const rows = new Map((await movableRows(db, user)).map((r) => [r.id, r]));
	const own = new Map<number, LoadEntry[]>();
	for (const entry of window.entries) {
		const list = own.get(entry.dispatchId);
		if (list) list.push(entry);
		else own.set(entry.dispatchId, [entry]);
	}
	const movables = [...own].flatMap(([dispatchId, entries]): Movable[] => {
		const row = rows.get(dispatchId);
		// A reminder belongs to its event's time.
		return row && row.eventId === null
			? [{ dispatchId, entries, byDays: allowedDays(row, window, time) }]
			: [];
	});
	return bestMoves(window.load, movables, window.times.loadLimit).map((move) => {
		const row = rows.get(move.dispatchId)!;
		const to = DateTime.fromMillis(row.leavesAt, { zone }).plus({ days: move.byDays });
		return {
			dispatchId: move.dispatchId,
			subject: row.subject,
			from: row.leavesAt,
			toLocal: localOf(to.toMillis(), zone),
			to: to.toMillis(),
			relief: move.relief,
			base: row.changedAt
		};
	});
}

/** What moving one dispatch to each day of a window does to the load. */
export interface MoveEffect {
	readonly date: string;
	/** Families over the limit on that day, before and after; of the day it stands on, with it and without. */
	readonly before: number;
	readonly after: number;
	/** Messages over the limit it takes away over all days (negative: it adds). */
	readonly relief: number;
}

/** The effect on each day of a window of moving a dispatch there; a draft has no copies yet and changes nothing. */
export async function moveEffects(
	db: Db,
	user: User,
	dispatchId: number,
	from: string
): Promise<MoveEffect[]> {
	const { zone } = await readTimes(db);
	const window = await loadWindow(db, localDays(from, 7, zone));
	const { load, days, times } = window;
	const entries = window.entries.filter((e) => e.dispatchId === dispatchId);
	const row = (await movableRows(db, user)).find((r) => r.id === dispatchId);
	const here = row ? days.findIndex((d) => row.leavesAt >= d.from && row.leavesAt < d.to) : -1;
	const others = window.entries.filter((e) => e.dispatchId !== dispatchId);
	const without = loadOf(others, days.length, load.households);
	return days.map((day, i) => {
		const before = dayLoad(load, i, times.loadLimit).over;
		if (here < 0 || entries.length === 0)
			return { date: day.date, before, after: before, relief: 0 };
		// The day it would leave is relieved wherever it goes.
		if (i === here) {
			return {
				date: day.date,
				before,
				after: dayLoad(without, i, times.loadLimit).over,
				relief: 0
			};
		}
		const moved = entries
			.map((e) => ({ ...e, day: e.day + i - here }))
			.filter((e) => e.day >= 0 && e.day < days.length);
		return {
			date: day.date,
			before,
			after: dayLoad(
				loadOf([...others, ...moved], days.length, load.households),
				i,
				times.loadLimit
			).over,
			relief: effectOf(load, { dispatchId, entries, byDays: [] }, i - here, times.loadLimit).relief
		};
	});
}

/** A family on one day, with what it gets. */
export interface LoadedFamily {
	readonly household: string;
	readonly people: string;
	readonly messages: readonly {
		readonly subject: string;
		readonly sender: string;
		readonly at: number;
		readonly dispatchId: number | null;
	}[];
}

const familiesShown = 200;

/** The families with most messages on a day, and what they are: of those the user may see. */
export async function familiesOn(
	db: Db,
	user: User,
	date: string
): Promise<{
	readonly limit: number;
	readonly over: number;
	readonly families: readonly LoadedFamily[];
}> {
	const times = await readTimes(db);
	const window = await loadWindow(db, localDays(date, 1, times.zone));
	const roster = await readRoster(db);
	const allowed = await studentsAllowed(db, user);
	const may = allowed && new Set(allowed.flatMap((id) => [...roster.householdsOf(id)]));
	const top = mostLoaded(window.load, 0, 1, window.load.households).filter(
		(h) => !may || may.has(window.households[h]!)
	);
	const shown = top.slice(0, familiesShown);
	const homes = shown.map((h) => window.households[h]!);
	const condition = dispatchCondition(user);
	const dispatches = new Map(
		(
			await db.all<{ id: number; subject: string; sender: string; at: number; mine: number }>(
				`SELECT dispatch.id, subject, given_name || ' ' || family_name AS sender, leaves_at AS at, (${condition}) AS mine
				FROM dispatch JOIN person ON person.id = sender_id WHERE dispatch.id IN (SELECT value FROM json_each($ids))`,
				{
					ids: JSON.stringify([...new Set(window.entries.map((e) => e.dispatchId))]),
					...rightsBind(user, condition)
				}
			)
		).map((d) => [d.id, d])
	);
	const members = new Map<number, string[]>();
	for (const row of await db.all<{ home: number; id: number }>(
		`SELECT household_id AS home, person_id AS id FROM household_member
		WHERE household_id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify(homes) }
	)) {
		members.set(row.home, [...(members.get(row.home) ?? []), nameOf(roster, row.id)]);
	}
	const names = new Map(
		(
			await db.all<{ id: number; name: string }>(
				'SELECT id, name FROM household WHERE id IN (SELECT value FROM json_each($ids))',
				{ ids: JSON.stringify(homes) }
			)
		).map((h) => [h.id, h.name])
	);
	const got = new Map<number, number[]>(shown.map((h) => [h, []]));
	for (const entry of window.entries) {
		for (const h of entry.households) got.get(h)?.push(entry.dispatchId);
	}
	return {
		limit: times.loadLimit,
		over: top.filter((h) => window.load.messages[0]![h]! > times.loadLimit).length,
		families: shown.map((h) => ({
			household: names.get(window.households[h]!) ?? '',
			people: (members.get(window.households[h]!) ?? []).join(', '),
			messages: got
				.get(h)!
				.map((id) => dispatches.get(id)!)
				.sort((a, b) => a.at - b.at)
				.map((d) =>
					d.mine === 1
						? { subject: d.subject, sender: d.sender, at: d.at, dispatchId: d.id }
						: { subject: 'A message from another sender', sender: '', at: d.at, dispatchId: null }
				)
		}))
	};
}
