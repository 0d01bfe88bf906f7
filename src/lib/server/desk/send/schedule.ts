import { writeDown } from '../../access/log';
import { audienceWords } from '../../../core/audience/sentence';
import { block, isBlocked, type Check } from '../../../core/plan/check';
import { tallyOf, type Tally } from '../../../core/plan/tally';
import { leavesAt } from '../../../core/time/hold';
import { isStill, type User } from '../../access/user';
import { now } from '../../clock';
import type { Db, Query } from '../../db/open';
import { nameBook } from '../../db/names';
import { keptIn, markUsed } from '../audience/kept';
import { marksOfSheet } from '../plan/marks-of-sheet';
import { boardsOfSheet } from '../plan/boards-of-sheet';
import { eventOfSheet, type EventOfSheet } from '../plan/event-of-sheet';
import { putEvent } from './put-event';
import { isStillSo, planSheet, type Planned } from '../plan/plan-sheet';
import { checkSheet } from '../plan/check-sheet';
import { prepareRound, putRound, type RoundReady } from './rounds';
import { sheetValues } from '../sheet/sheet-row';
import { departing, putScheduled, urgentValues, type Departing } from './put-scheduled';
import type { Sheet } from '../sheet/sheet';
import type { Scheduled } from './types';
import type { DispatchRow, RoundRow } from '../../db/models/dispatch';

/** So often a sheet is planned anew because the roster, the calendar or a right has changed while it was. */
const mostTurns = 3;
/** A hold that was counted so long before it is written down is counted once more, ms; where that takes as long again, it is that much shorter. */
const lateMs = 5_000;

/** All that is made of a sheet before anybody has to wait for it to be written down. */
interface Ready {
	readonly planned: Planned;
	readonly tally: Tally;
	readonly checks: readonly Check[];
	readonly used: Awaited<ReturnType<typeof keptIn>>;
	readonly words: string;
	/** What the markers stand at that the sheet asks about or speaks of. */
	readonly marks: string;
	readonly schoolId: number | null;
	/** When its hold or its time was counted (instant, ms). */
	readonly time: number;
	/** What it puts into the calendar; null where it puts nothing there. */
	readonly event: EventOfSheet | null;
	/** Null where something stands in the way. */
	readonly leaving:
		| { readonly kind: 'one'; readonly departing: Departing }
		| { readonly kind: 'round'; readonly round: RoundReady }
		| null;
}

/**
 * Sends a sheet: plans it, writes the dispatch with every copy and everyone left out, and sets the
 * hold or the time. All or nothing. The same sheet sent twice (a second tap, a repeated request) is
 * one dispatch. `copiesSeen` is the number on the button: if the roster has changed since, nothing
 * is sent and the new number is said.
 *
 * Planning and checking a district takes seconds in which others write: they are done first, and the
 * transaction compares what they rest on. Where that has changed, it is planned anew.
 */
export async function schedule(
	db: Db,
	key: Buffer,
	user: User,
	sheet: Sheet,
	copiesSeen: number
): Promise<Scheduled> {
	for (let turn = 1; ; turn += 1) {
		const ready = await makeReady(db, key, user, sheet, copiesSeen);
		const mostLate = turn === 1 ? lateMs : Infinity;
		const put = await db.write((tx) => putDown(tx, user, sheet, ready, mostLate));
		if (put !== 'changed') return put;
		if (turn < mostTurns) continue;
		const check = block(
			'result',
			'The roster or the calendar keeps changing. Wait a moment, then send again.'
		);
		return { ok: false, checks: [check, ...ready.checks], tally: ready.tally };
	}
}

/** What was sent of this sheet before, whose it is, and the draft it was. */
async function beforeOf(db: Query, sheetKey: string) {
	const draft = await db.one<Pick<DispatchRow, 'id' | 'state' | 'senderId'>>(
		'SELECT id, state, sender_id AS senderId FROM dispatch WHERE sheet_key = $key',
		{ key: sheetKey }
	);
	const round = await db.one<
		Pick<RoundRow, 'id'> & { first: number | null; senderId: RoundRow['madeBy'] }
	>(
		`SELECT id, made_by AS senderId, (SELECT min(dispatch.id) FROM dispatch WHERE round_id = round.id) AS first
		FROM round WHERE sheet_key = $key`,
		{ key: sheetKey }
	);
	return { draft, round };
}

/** Plans and checks a sheet, and makes its rows where nothing stands in the way. */
async function makeReady(
	db: Db,
	key: Buffer,
	user: User,
	sheet: Sheet,
	copiesSeen: number
): Promise<Ready> {
	// Read first: what changes while it is planned makes another of it.
	const marks = await marksOfSheet(db, sheet);
	const planned = await planSheet(db, user, sheet);
	const { roster, manifest, spoken } = planned;
	const tally = tallyOf(manifest);
	const used = await keptIn(db, user, sheet.audience);
	const boards = await boardsOfSheet(db, user, sheet, planned);
	const event = await eventOfSheet(db, user, sheet, planned);
	const checks = await checkSheet(db, user, sheet, planned, { tally, boards, event });
	if (!isBlocked(checks) && tally.copies !== copiesSeen) {
		checks.unshift(
			block(
				'result',
				`The roster has changed while you wrote: ${tally.copies} copies now, not ${copiesSeen}. Look again, then send.`
			)
		);
	}
	const words = audienceWords(spoken, await nameBook(db, spoken));
	const schools = new Set(manifest.students.map((id) => roster.person(id)?.schoolId));
	const schoolId = schools.size === 1 ? ([...schools][0] ?? null) : null;
	const time = await now(db);
	const ready = { planned, tally, checks, event, used, words, marks, schoolId, time };
	if (isBlocked(checks)) return { ...ready, leaving: null };
	const { kind } = sheet.timing.when;
	if (kind === 'event' || kind === 'round') {
		return {
			...ready,
			leaving: {
				kind: 'round',
				round: prepareRound(key, sheet, { planned, boards: boards?.on ?? null }, words)
			}
		};
	}
	// The hold counts from this moment on: planning has taken a while.
	const late = kind === 'now' ? leavesAt(time, sheet.holdMinutes) - planned.moment.at : 0;
	const moment = {
		...planned.moment,
		at: planned.moment.at + late,
		endsAt:
			sheet.timing.ends?.kind === 'after' ? planned.moment.endsAt! + late : planned.moment.endsAt
	};
	const again = late === 0 ? manifest : (await planSheet(db, user, sheet, moment)).manifest;
	return {
		...ready,
		leaving: {
			kind: 'one',
			departing: departing(
				key,
				sheet,
				{ manifest: again, moment, boards: boards?.on ?? null },
				{ time }
			)
		}
	};
}

/** Writes down what is ready, in the caller's transaction; `changed` where what it rests on is not so any more, or a hold was counted more than `mostLate` ago (ms). */
async function putDown(
	tx: Query,
	user: User,
	sheet: Sheet,
	ready: Ready,
	mostLate: number
): Promise<Scheduled | 'changed'> {
	const { planned, tally, words, schoolId, leaving } = ready;
	const { draft, round } = await beforeOf(tx, sheet.sheetKey);
	if (draft && draft.senderId === user.personId && draft.state !== 'draft') {
		return { ok: true, dispatchId: draft.id, roundId: null };
	}
	if (round && round.senderId === user.personId && round.first !== null) {
		return { ok: true, dispatchId: round.first, roundId: round.id };
	}
	const checks = [...ready.checks];
	if ((draft?.senderId ?? round?.senderId ?? user.personId) !== user.personId) {
		checks.unshift(
			block('result', 'This sheet belongs to someone else. Open Write again and start a new one.')
		);
	}
	if (isBlocked(checks) || !leaving) return { ok: false, checks, tally };
	if (!(await isStill(tx, user))) {
		checks.unshift(block('result', 'What you may do has changed meanwhile. Load the page again.'));
		return { ok: false, checks, tally };
	}
	if (!(await isStillSo(tx, planned)) || (await marksOfSheet(tx, sheet)) !== ready.marks)
		return 'changed';
	const time = await now(tx);
	if (sheet.timing.when.kind === 'now' && time - ready.time > mostLate) return 'changed';

	await markUsed(tx, ready.used, time);
	const common = {
		...urgentValues(sheet, user, time),
		schoolId: schoolId,
		scheduledAt: time,
		senderId: user.personId,
		aboutId: sheet.invitation?.kind === 'about' ? sheet.invitation.dispatchId : null
	};
	if (leaving.kind === 'round') {
		const made = await putRound(tx, { user, sheet, round: leaving.round, common, time });
		if (draft) await tx.run('DELETE FROM dispatch WHERE id = $id', { id: draft.id });
		await writeDown(tx, {
			...{ act: 'sheet-scheduled', by: user, to: ['round', made.roundId!], schoolId },
			after: { dispatch: made.dispatchId, copies: tally.copies, urgent: sheet.timing.urgent }
		});
		return { ok: true, ...made };
	}
	const dispatchId = await putScheduled(tx, {
		before: draft?.id ?? null,
		values: {
			...sheetValues(sheet, words),
			...common,
			...(draft ? {} : { sheetKey: sheet.sheetKey })
		},
		sheet,
		departing: leaving.departing,
		time
	});
	if (ready.event) await putEvent(tx, user, sheet.sheetKey, dispatchId, ready.event);
	await writeDown(tx, {
		...{ act: 'sheet-scheduled', by: user, to: ['dispatch', dispatchId], schoolId },
		after: {
			leavesAt: leaving.departing.moment.at,
			copies: tally.copies,
			urgent: sheet.timing.urgent
		}
	});
	return { ok: true, dispatchId, roundId: null };
}
