import { createHash } from 'node:crypto';
import type { BoardsOf } from '../../../core/audience/boards';
import { timed } from '../../../core/plan/times';
import { zoneOf } from '../../../core/time/clocks';
import {
	comingMoments,
	momentsOf,
	timingSchema,
	type Moment,
	type Timing
} from '../../../core/time/timing';
import type { User } from '../../access/user';
import type { Query } from '../../db/open';
import type { Planned } from '../plan/plan-sheet';
import { departureOf } from '../sheet/departure';
import { departing, putScheduled, type Departing } from './put-scheduled';
import {
	sheetColumns,
	sheetOfRow,
	sheetValues,
	type DispatchValues,
	type SheetRow
} from '../sheet/sheet-row';
import type { Sheet } from '../sheet/sheet';
import type { Times } from '../../db/calendar';
import type { SchoolEvent } from '../../../core/time/school-event';
import { isTouched } from '../../db/copy-state';
import type { RoundRow } from '../../db/models/dispatch';

/** The key of the sheet of one date: the same for the same round and date, so that nothing is made twice. */
export function dateKey(sheetKey: string, key: string): string {
	const hex = createHash('sha256').update(`${sheetKey} ${key}`).digest('hex');
	return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-5${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}

/** The timing of one date by itself: at its own time, with the end that it has there. */
export const timingOf = (timing: Timing, moment: Moment): Timing => ({
	...timing,
	when: { kind: 'at', at: moment.local }
});

/** The sheet of one date, and what its row says of its time. */
export function dateValues(
	sheet: Sheet,
	moment: Moment,
	words: string
): { one: Sheet; values: DispatchValues } {
	const one: Sheet = {
		...sheet,
		sheetKey: dateKey(sheet.sheetKey, moment.key),
		timing: timingOf(sheet.timing, moment),
		// Each date stands from its own time to its own end.
		board: { ...sheet.board, from: null, until: null }
	};
	return {
		one,
		values: {
			...sheetValues(one, words),
			leavesAt: moment.at,
			endsAt: moment.endsAt,
			sheetKey: one.sheetKey,
			roundKey: moment.key
		}
	};
}

/** The dates of a round, each ready to be put down. */
export interface RoundReady {
	readonly dates: readonly {
		readonly one: Sheet;
		readonly values: DispatchValues;
		readonly departing: Departing;
	}[];
}

/** Copies of all near dates together beyond which the courier writes them, date by date. */
const mostAtOnce = 60_000;

/** Makes a round ready: one dispatch for each date, each with its own copies, worked out again shortly before it leaves. */
export function prepareRound(
	key: Buffer,
	sheet: Sheet,
	{ planned, boards }: { readonly planned: Planned; readonly boards: BoardsOf | null },
	words: string
): RoundReady {
	const { now: time } = planned;
	let copies = 0;
	return {
		dates: comingMoments(planned.moments, time).map((moment) => {
			const { one, values } = dateValues(sheet, moment, words);
			const manifest = timesOf(planned, sheet, moment);
			copies += manifest.copies.length;
			const later = copies > mostAtOnce;
			return {
				one,
				values,
				departing: departing(key, one, { manifest, moment, boards }, { time, later })
			};
		})
	};
}

/** Puts a round down, in the caller's transaction. Returns its id and its first date's. */
export async function putRound(
	tx: Query,
	{
		user,
		sheet,
		round,
		common,
		time
	}: {
		readonly user: User;
		readonly sheet: Sheet;
		readonly round: RoundReady;
		/** What each date's row says beside its time. */
		readonly common: DispatchValues;
		readonly time: number;
	}
): Promise<{ dispatchId: number; roundId: number }> {
	const { when } = sheet.timing;
	await tx.run(
		`INSERT INTO round (sheet_key, timing, event_id, made_by, made_at, left_out) VALUES ($key, $timing, $event, $user, $time, '[]')
		ON CONFLICT (sheet_key) DO UPDATE SET timing = excluded.timing, event_id = excluded.event_id`,
		{
			key: sheet.sheetKey,
			timing: JSON.stringify(sheet.timing),
			event: when.kind === 'event' ? when.eventId : null,
			user: user.personId,
			time
		}
	);
	const { id: roundId } = (await tx.one<Pick<RoundRow, 'id'>>(
		'SELECT id FROM round WHERE sheet_key = $key',
		{ key: sheet.sheetKey }
	))!;
	let first = 0;
	for (const { one, values, departing } of round.dates) {
		const dispatchId = await putScheduled(tx, {
			before: null,
			values: { ...values, ...common, roundId: roundId },
			sheet: one,
			departing,
			time
		});
		first ||= dispatchId;
	}
	return { dispatchId: first, roundId };
}

/** The plan of a sheet at another of its moments. */
function timesOf(
	{ manifest, roster, times, moment: own, event }: Planned,
	sheet: Sheet,
	moment: Moment
) {
	if (own.at === moment.at && own.endsAt === moment.endsAt) return manifest;
	return timed(
		manifest,
		roster,
		departureOf(sheet, moment, times, event?.startsAt ?? null),
		times.quiet
	);
}

/** A dispatch that belongs to an event, and the new time its event gives it; null where the event no longer gives it one. */
export interface Moved {
	readonly dispatchId: number;
	readonly moment: Moment | null;
}

/**
 * Moves the reminders of an event with it: those that have not left, still follow their round, and
 * come to another time. In the caller's transaction; their copies are to be worked out again.
 */
export async function moveReminders(
	tx: Query,
	event: SchoolEvent,
	times: Times,
	time: number
): Promise<Moved[]> {
	const rounds = await tx.all<Pick<RoundRow, 'id' | 'timing'>>(
		'SELECT id, timing FROM round WHERE event_id = $id',
		{ id: event.id }
	);
	const moved: Moved[] = [];
	for (const round of rounds) {
		const timing = timingSchema.parse(JSON.parse(round.timing));
		const moments = new Map(
			momentsOf(timing, {
				now: time,
				holdMinutes: 0,
				zone: zoneOf(times.clocks, timing.clock),
				event,
				isSchoolDay: times.isSchoolDay
			}).map((m) => [m.key, m])
		);
		const rows = await tx.all<
			SheetRow & { id: number; roundKey: string; leavesAt: number; endsAt: number | null }
		>(
			`SELECT id, round_key AS roundKey, leaves_at AS leavesAt, ends_at AS endsAt, ${sheetColumns}
			FROM dispatch WHERE round_id = $round AND state = 'scheduled' AND own_time = 0
				AND NOT ${isTouched}`,
			{ round: round.id }
		);
		for (const row of rows) {
			const moment = moments.get(row.roundKey) ?? null;
			if (!moment || (moment.at === row.leavesAt && moment.endsAt === row.endsAt)) continue;
			const sheet = sheetOfRow(row);
			// What would be past is not sent late: it waits for an answer.
			const late = moment.at < time;
			await tx.run(
				`UPDATE dispatch SET timing = $timing, leaves_at = $at, ends_at = $ends, changed_at = $time,
					settled = 0, waits = CASE WHEN $off = 1 THEN waits ELSE $waits END WHERE id = $id`,
				{
					id: row.id,
					timing: JSON.stringify(timingOf({ ...sheet.timing, ends: timing.ends }, moment)),
					at: moment.at,
					ends: moment.endsAt,
					time,
					// Moving what is called off calls nothing on again.
					off: event.calledOff ? 1 : 0,
					waits: late
						? `${event.title} was moved, and this reminder's time is past. Send it at another time or let it go.`
						: null
				}
			);
			moved.push({ dispatchId: row.id, moment });
		}
	}
	return moved;
}
