import { DateTime } from 'luxon';
import {
	bestMoves,
	dayLoad,
	loadOf,
	type Load,
	type LoadEntry,
	type Movable
} from '../../../core/plan/load';
import { leadMinutes } from '../../../core/time/hold';
import { localOf, placeLocal } from '../../../core/time/local';
import { localDays } from '../../../core/time/zone';
import { actsForDistrict } from '../../access/rights';
import type { User } from '../../access/sessions';
import { now } from '../../clock';
import type { Db } from '../../db/open';
import { loadOfDispatch, loadOfPlan, loadWindow, type LoadWindow } from '../load/load';
import { planSheet } from './plan-sheet';
import { sheetColumns, sheetOfRow, type SheetRow } from '../sheet/sheet-row';
import { readTimes } from '../../db/calendar';

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
			${actsForDistrict(user) ? '' : 'AND sender_id = $user'}`,
		actsForDistrict(user) ? {} : { user: user.personId }
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

/** A dispatch or draft in hand: when it is meant to leave, and what it brings to which households, by days from then. */
interface InHand {
	readonly at: number;
	/** Whether its copies are counted in the load already. */
	readonly counted: boolean;
	readonly parts: readonly {
		readonly byDays: number;
		readonly households: Uint32Array;
		readonly texts: number;
	}[];
}

async function inHand(db: Db, user: User, id: number, zone: string): Promise<InHand | null> {
	const daysFrom = (at: number, date: string) =>
		Math.round((Date.parse(date) - Date.parse(localOf(at, zone).slice(0, 10))) / 86_400_000);
	const row = (await movableRows(db, user)).find((r) => r.id === id);
	if (row) {
		const parts = await loadOfDispatch(db, id);
		return {
			at: row.leavesAt,
			counted: true,
			parts: parts.map((p) => ({ ...p, byDays: daysFrom(row.leavesAt, p.date) }))
		};
	}
	const draft = await db.one<SheetRow>(
		`SELECT ${sheetColumns} FROM dispatch WHERE id = $id AND state = 'draft' AND sender_id = $user`,
		{ id, user: user.personId }
	);
	if (!draft) return null;
	const sheet = sheetOfRow(draft);
	if (sheet.timing.when.kind !== 'at') return null;
	const { at } = placeLocal(sheet.timing.when.at, zone);
	const { manifest } = await planSheet(db, user, sheet, { at, endsAt: null });
	const parts = await loadOfPlan(db, manifest);
	return { at, counted: false, parts: parts.map((p) => ({ ...p, byDays: daysFrom(at, p.date) })) };
}

/**
 * The effect on each day of a week of moving a dispatch there, from within the week or from elsewhere.
 * A draft is counted by whom it would reach now.
 */
export async function moveEffects(
	db: Db,
	user: User,
	dispatchId: number,
	from: string
): Promise<MoveEffect[]> {
	const { zone } = await readTimes(db);
	const window = await loadWindow(db, localDays(from, 7, zone));
	const { load, days, times } = window;
	const hand = await inHand(db, user, dispatchId, zone);
	const here = hand ? days.findIndex((d) => hand.at >= d.from && hand.at < d.to) : -1;
	const others = window.entries.filter((e) => e.dispatchId !== dispatchId);
	const overOn = (of: Load, day: number) => dayLoad(of, day, times.loadLimit).over;
	const excess = (of: Load) =>
		days.reduce((sum, _, day) => {
			for (const n of of.messages[day]!) sum += Math.max(0, n - times.loadLimit);
			return sum;
		}, 0);
	const without = loadOf(others, days.length, load.households);
	return days.map((day, i) => {
		const before = overOn(load, i);
		if (!hand || hand.parts.length === 0) {
			return { date: day.date, before, after: before, relief: 0 };
		}
		// The day it would leave is relieved wherever it goes.
		if (hand.counted && i === here) {
			return { date: day.date, before, after: overOn(without, i), relief: 0 };
		}
		const moved = hand.parts
			.map((p): LoadEntry => ({ ...p, dispatchId, day: i + p.byDays }))
			.filter((e) => e.day >= 0 && e.day < days.length);
		const after = loadOf([...others, ...moved], days.length, load.households);
		return {
			date: day.date,
			before,
			after: overOn(after, i),
			relief: excess(load) - excess(after)
		};
	});
}
