import { isDeepStrictEqual } from 'node:util';
import { clocksMark, zoneOf } from '../../../core/time/clocks';
import {
	endOf,
	momentsOf,
	timingSchema,
	type Moment,
	type Timing
} from '../../../core/time/timing';
import { placeLocal } from '../../../core/time/local';
import { dayName } from '../../../core/time/zone';
import { userById } from '../../access/user';
import { now } from '../../clock';
import { readSetting, writeSetting } from '../../db/district';
import type { Db, Query } from '../../db/open';
import { boardsOfSheet } from '../plan/boards-of-sheet';
import { planSheet } from '../plan/plan-sheet';
import { departing, putScheduled, urgentValues } from './put-scheduled';
import { dateValues, timingOf } from './rounds';
import { sheetColumns, sheetOfRow, type SheetRow } from '../sheet/sheet-row';
import {
	eventColumns,
	eventZones,
	readTimes,
	toEvent,
	type EventRow,
	type Times
} from '../../db/calendar';
import { readClocks } from '../../db/school-own';
import { clearPlan } from './write-plan';
import { isTouched } from '../../db/copy-state';
import type { DispatchRow } from '../../db/models/dispatch';

/** Nothing of it has been taken up yet, so that its time may still change. */
const untouched = `NOT ${isTouched}`;

/** Why a date of a round waits: there is no school on its day. Nobody held it up, so it goes on by itself when there is school again. */
const noSchool = 'no-school';

interface DateRow extends SheetRow {
	readonly id: number;
	readonly roundKey: string;
	readonly state: string;
	readonly own: number;
	readonly leavesAt: number | null;
	readonly endsAt: number | null;
	readonly waitsCode: string | null;
	readonly untouched: number;
}

interface RoundRow {
	readonly id: number;
	readonly sheetKey: string;
	readonly timing: string;
	readonly madeBy: number;
	/** Keys of dates taken out by hand, as JSON; null for rounds of before this was written down. */
	readonly leftOut: string | null;
}

/**
 * Asks the calendar again for every repetition: after days without school have changed, a date that
 * was to be moved moves, one that was to be left out waits and says so, and one that has school again
 * comes back. Dates changed by themselves stay as they are. Resolves to the dispatches whose copies
 * are to be worked out again.
 */
export async function realignRounds(db: Db, key: Buffer): Promise<number[]> {
	const rounds = await db.all<RoundRow>(
		`SELECT id, sheet_key AS sheetKey, timing, made_by AS madeBy, left_out AS leftOut FROM round
		WHERE event_id IS NULL AND EXISTS (SELECT 1 FROM dispatch WHERE round_id = round.id) ORDER BY id`
	);
	const times = await readTimes(db);
	const again: number[] = [];
	for (const round of rounds) {
		const timing = timingSchema.parse(JSON.parse(round.timing));
		if (timing.when.kind !== 'round') continue;
		const time = await now(db);
		const moments = momentsOf(timing, {
			now: time,
			holdMinutes: 0,
			zone: zoneOf(times.clocks, timing.clock),
			event: null,
			isSchoolDay: times.isSchoolDay
		});
		if (!moments.some((m) => m.at > time)) continue;
		const moved = await db.write(async (tx) =>
			moveDates(tx, round.id, timing, moments, times, time)
		);
		again.push(...moved);
		await makeMissing(db, key, round, timing, moments);
	}
	return again;
}

const rowsOf = (db: Query, roundId: number): Promise<DateRow[]> =>
	db.all<DateRow>(
		`SELECT id, round_key AS roundKey, state, own_time AS own, leaves_at AS leavesAt, ends_at AS endsAt,
			waits_code AS waitsCode, ${untouched} AS untouched, ${sheetColumns}
		FROM dispatch WHERE round_id = $round`,
		{ round: roundId }
	);

/** Moves the dates that are there; resolves to those that moved. */
async function moveDates(
	tx: Query,
	roundId: number,
	timing: Timing,
	moments: readonly Moment[],
	{ clocks }: Times,
	time: number
): Promise<number[]> {
	const zone = zoneOf(clocks, timing.clock);
	const byKey = new Map(moments.map((m) => [m.key, m]));
	const moved: number[] = [];
	for (const row of await rowsOf(tx, roundId)) {
		const moment = byKey.get(row.roundKey);
		if (!moment || row.state !== 'scheduled' || row.own === 1 || row.untouched === 0) continue;
		if (moment.note === 'skipped') {
			if (row.waitsCode === noSchool) continue;
			await clearPlan(tx, row.id);
			await tx.run(
				`UPDATE dispatch SET waits = $why, waits_code = '${noSchool}', settled = 0, changed_at = $time WHERE id = $id`,
				{
					id: row.id,
					time,
					why: `There is no school on ${dayName(moment.at, zone, time)}, and its repetition leaves such a date out. Send it all the same, write something else in its place, or let it go.`
				}
			);
			continue;
		}
		const same = moment.at === row.leavesAt && moment.endsAt === row.endsAt;
		if (same && row.waitsCode !== noSchool) continue;
		const late = moment.at < time;
		await tx.run(
			`UPDATE dispatch SET timing = $timing, leaves_at = $at, ends_at = $ends, changed_at = $time,
				settled = 0, waits = $waits, waits_code = $code WHERE id = $id`,
			{
				id: row.id,
				timing: JSON.stringify(timingOf({ ...sheetOfRow(row).timing, ends: timing.ends }, moment)),
				at: moment.at,
				ends: moment.endsAt,
				time,
				code: late ? noSchool : null,
				waits: late
					? `Days without school have changed, and its time, ${dayName(moment.at, zone, time)}, is past. Send it at another time or let it go.`
					: null
			}
		);
		if (late) await clearPlan(tx, row.id);
		else moved.push(row.id);
	}
	return moved;
}

/** Makes the dates that had no school when the round was scheduled and have it now; not those that somebody took out. */
async function makeMissing(
	db: Db,
	key: Buffer,
	round: RoundRow,
	timing: Timing,
	moments: readonly Moment[]
): Promise<void> {
	if (round.leftOut === null) return;
	const out = new Set(JSON.parse(round.leftOut) as string[]);
	const rows = await rowsOf(db, round.id);
	const there = new Set(rows.map((r) => r.roundKey));
	const time = await now(db);
	const missing = moments.filter(
		(m) => m.note !== 'skipped' && m.at > time && !there.has(m.key) && !out.has(m.key)
	);
	const like = rows.find((r) => r.own === 0 && r.state !== 'draft');
	const user = missing.length > 0 && like ? await userById(db, round.madeBy) : null;
	if (!user || !like) return;
	for (const moment of missing) {
		const sheet = { ...sheetOfRow(like), timing };
		const planned = await planSheet(db, user, sheet, moment);
		const source = (await db.one<
			Pick<DispatchRow, 'schoolId'> & { words: DispatchRow['audienceWords'] }
		>('SELECT audience_words AS words, school_id AS schoolId FROM dispatch WHERE id = $id', {
			id: like.id
		}))!;
		const { one, values } = dateValues(
			{ ...sheet, sheetKey: round.sheetKey },
			moment,
			source.words
		);
		const boards = await boardsOfSheet(db, user, one, planned);
		const ready = departing(key, one, { ...planned, moment, boards: boards?.on ?? null }, { time });
		await db.write(async (tx) => {
			if (await tx.one('SELECT 1 FROM dispatch WHERE sheet_key = $key', { key: one.sheetKey }))
				return;
			await putScheduled(tx, {
				before: null,
				values: {
					...values,
					...urgentValues(sheet, user, time),
					schoolId: source.schoolId,
					scheduledAt: time,
					senderId: user.personId,
					roundId: round.id
				},
				sheet: one,
				departing: ready,
				time
			});
		});
	}
}

/** Under which the clocks are written down that was planned by. */
const plannedClocks = 'planned-clocks';

/**
 * Moves what was planned by local time when the zone of the district or of a school has changed: events,
 * and every scheduled dispatch that nothing has left of. What leaves after a hold keeps its instant. Resolves
 * to the dispatches whose copies are to be worked out again; to none where no clock is another.
 */
export async function realignZone(db: Db): Promise<number[]> {
	return db.write(async (tx) => {
		const clocks = await readClocks(tx);
		const before = await readSetting(tx, plannedClocks);
		if (isDeepStrictEqual(before, clocksMark(clocks))) return [];
		await writeSetting(tx, plannedClocks, clocksMark(clocks));
		if (before === undefined) return [];
		const time = await now(tx);
		const zoneHere = await eventZones(tx, clocks);
		for (const row of await tx.all<EventRow>(`SELECT ${eventColumns} FROM school_event`)) {
			const event = toEvent(row);
			const zone = zoneHere(event);
			const [from, to] = [event.startsLocal, event.endsLocal].map((t) => placeLocal(t, zone).at);
			if (from === event.startsAt && to === event.endsAt) continue;
			await tx.run('UPDATE school_event SET starts_at = $from, ends_at = $to WHERE id = $id', {
				...{ id: event.id, from: from!, to: to! }
			});
		}
		const again: number[] = [];
		const rows = await tx.all<SheetRow & { id: number; leavesAt: number; waits: string | null }>(
			`SELECT id, leaves_at AS leavesAt, waits, ${sheetColumns} FROM dispatch
			WHERE state = 'scheduled' AND json_extract(timing, '$.when.kind') = 'at' AND ${untouched}`
		);
		for (const row of rows) {
			const { when, ends, clock } = sheetOfRow(row).timing;
			if (when.kind !== 'at') continue;
			const zone = zoneOf(clocks, clock);
			const { at } = placeLocal(when.at, zone);
			if (at === row.leavesAt) continue;
			const endsAt = endOf(ends, at, zone);
			const late = at < time;
			await tx.run(
				`UPDATE dispatch SET leaves_at = $at, ends_at = $ends, settled = 0, changed_at = $time,
					waits = coalesce(waits, $waits) WHERE id = $id`,
				{
					id: row.id,
					at,
					ends: endsAt,
					time,
					waits: late
						? 'The zone of its clock was changed, and its time is past by the new one. Send it at another time or let it go.'
						: null
				}
			);
			if (late) await clearPlan(tx, row.id);
			else if (row.waits === null) again.push(row.id);
		}
		return again;
	});
}

/** Whether a clock is another than the one that was planned by; also where none was written down yet. */
export const zoneMoved = async (db: Query): Promise<boolean> =>
	!isDeepStrictEqual(await readSetting(db, plannedClocks), clocksMark(await readClocks(db)));
