import { zoneOf } from '../../../core/time/clocks';
import { workZone } from '../../access/work-clock';
import { dayLoad, loadOf, type Load, type LoadEntry } from '../../../core/plan/load';
import { localOf, placeLocal } from '../../../core/time/local';
import { localDays } from '../../../core/time/zone';
import type { User } from '../../access/user';
import type { Db } from '../../db/open';
import { loadOfDispatch, loadOfPlan, loadWindow } from '../load/load';
import { planSheet } from './plan-sheet';
import { sheetColumns, sheetOfRow, type SheetRow } from '../sheet/sheet-row';
import { readClocks } from '../../db/school-own';
import type { MoveEffect } from './types';
import { movableRows } from '../load/load-moves';

/** A dispatch or draft in hand: when it is meant to leave, and what it brings to which households, by days from then. */
interface InHand {
	readonly at: number;
	/** Whether its copies are counted in the load already. */
	readonly counted: boolean;
	readonly parts: readonly {
		readonly byDays: number;
		readonly households: Uint32Array;
		readonly digest: Uint32Array;
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
	const { at } = placeLocal(sheet.timing.when.at, zoneOf(await readClocks(db), sheet.timing.clock));
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
	const zone = await workZone(db, user);
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
