import { audienceWords } from '../../../core/audience/sentence';
import { isBlocked } from '../../../core/plan/check';
import { tallyOf } from '../../../core/plan/tally';
import { userById } from '../../access/user';
import { now } from '../../clock';
import { onlyStands } from '../../db/copy-state';
import { nameBook } from '../../db/names';
import type { Db } from '../../db/open';
import { boardsOfSheet } from '../plan/boards-of-sheet';
import { checkSheet } from '../plan/check-sheet';
import { marksOfSheet } from '../plan/marks-of-sheet';
import { planSheet } from '../plan/plan-sheet';
import { horizonMs, settleAheadMs } from './put-scheduled';
import { eventOfDispatch } from '../sheet/departure';
import { sheetColumns, sheetOfRow, type SheetRow } from '../sheet/sheet-row';
import { realignRounds, realignZone } from './realign';
import { retimeFeeds } from './feed-times';
import { countStanding } from './standing';
import { clearPlan, writePlan } from './write-plan';
import { planRows } from './plan-rows';
import type { DispatchRow } from '../../db/models/dispatch';

/** Follows a zone that was changed in the settings: what is planned by local time moves. */
export async function followZone(db: Db, key: Buffer): Promise<void> {
	for (const id of await realignZone(db)) await replan(db, key, id);
	await db.write(retimeFeeds);
}

/** Holds a scheduled dispatch up until its sender has answered: its copies are taken away, and it says why. */
export const holdUp = (db: Db, dispatchId: number, why: string): Promise<void> =>
	db.write(async (tx) => {
		await clearPlan(tx, dispatchId);
		await tx.run(`UPDATE dispatch SET waits = $why WHERE id = $id AND state = 'scheduled'`, {
			id: dispatchId,
			why
		});
	});

type Row = SheetRow & {
	readonly senderId: number;
	readonly leavesAt: number;
	readonly endsAt: number | null;
	readonly changedAt: number;
	readonly eventAt: number | null;
};

/**
 * Works a scheduled dispatch out again: its audience as the roster is now, its copies' moments as
 * the calendar is now. Close to its time this settles it, so that the courier may take it. What can
 * no longer be sent as it stands (a right lost, a section gone, a field with a gap) does not leave:
 * it waits, with the reason, for whoever sent it. Copies that have left are never touched.
 */
export async function replan(db: Db, key: Buffer, dispatchId: number): Promise<void> {
	const row = await db.one<Row>(
		`SELECT ${sheetColumns}, sender_id AS senderId, leaves_at AS leavesAt, ends_at AS endsAt,
			changed_at AS changedAt, ${eventOfDispatch} AS eventAt FROM dispatch WHERE id = $id AND state = 'scheduled' AND settled = 0`,
		{ id: dispatchId }
	);
	if (!row) return;
	const wait = (why: string) => holdUp(db, dispatchId, why);
	const user = await userById(db, row.senderId);
	if (!user) return wait('Whoever sent it can no longer sign in.');
	const sheet = sheetOfRow(row);
	const marks = await marksOfSheet(db, sheet);
	const planned = await planSheet(db, user, sheet, {
		...{ at: row.leavesAt, endsAt: row.endsAt, eventAt: row.eventAt }
	});
	const tally = tallyOf(planned.manifest);
	const boards = await boardsOfSheet(db, user, sheet, planned);
	// Its time is settled already, and may be just past.
	const checks = (
		await checkSheet(db, user, sheet, planned, { tally, boards, event: null })
	).filter((c) => c.where !== 'when');
	// Its copies have no time of their own left: another reason than that nobody can be reached.
	if (
		tally.copies === 0 &&
		planned.manifest.leftOut.some((l) =>
			l.reasons.some((r) => r.code === 'past-end' || r.code === 'no-allowed-time')
		)
	) {
		return wait(
			'Days without school or quiet hours leave it no time to go out before its end. Move it, or take its end away.'
		);
	}
	if (isBlocked(checks)) return wait(checks.find((c) => c.level === 'block')!.text);
	const words = audienceWords(planned.spoken, await nameBook(db, planned.spoken));
	const ready = await now(db);
	const rows =
		row.leavesAt - ready <= horizonMs
			? planRows(key, planned.manifest, {
					...{ time: ready, held: false },
					boards: boards?.on ?? null
				})
			: null;
	await db.write(async (tx) => {
		// Moved, called back or sent meanwhile: then this plan is nobody's.
		const still = await tx.one(
			`SELECT 1 FROM dispatch WHERE id = $id AND state = 'scheduled' AND settled = 0 AND changed_at = $changedAt`,
			{ id: dispatchId, changedAt: row.changedAt }
		);
		// A marker that has changed meanwhile is asked again: nobody gets a copy with a gap.
		if (!still || (await marksOfSheet(tx, sheet)) !== marks) return;
		const time = await now(tx);
		await clearPlan(tx, dispatchId);
		if (rows) await writePlan(tx, dispatchId, rows, time);
		await tx.run('UPDATE dispatch SET settled = $settled, audience_words = $words WHERE id = $id', {
			id: dispatchId,
			settled: row.leavesAt - time <= settleAheadMs ? 1 : 0,
			words
		});
	});
}

/** The next scheduled dispatch that is to be worked out: one that leaves soon, or one that has come within sight. Null where there is none. */
export async function nextToPlan(db: Db): Promise<number | null> {
	const time = await now(db);
	const row = await db.one<Pick<DispatchRow, 'id'>>(
		`SELECT id FROM dispatch WHERE state = 'scheduled' AND settled = 0 AND waits IS NULL
			AND (leaves_at <= $soon OR (leaves_at <= $sight AND NOT written))
		ORDER BY leaves_at LIMIT 1`,
		{ soon: time + settleAheadMs, sight: time + horizonMs }
	);
	return row?.id ?? null;
}

/** When there is next something to plan (job's clock, ms): a dispatch comes close to its time, or within sight, or what stands on boards alone begins to; null where nothing is scheduled. */
export async function nextPlanning(db: Db): Promise<number | null> {
	const time = await now(db);
	const row = await db.one<{ soon: number | null; sight: number | null; stands: number | null }>(
		`SELECT min(CASE WHEN settled = 0 THEN leaves_at END) - $settle AS soon,
			min(CASE WHEN settled = 0 AND leaves_at > $far THEN leaves_at END) - $horizon AS sight,
			min(CASE WHEN settled = 1 AND ${onlyStands} THEN leaves_at END) AS stands
		FROM dispatch WHERE state = 'scheduled' AND waits IS NULL`,
		{ settle: settleAheadMs, horizon: horizonMs, far: time + horizonMs }
	);
	const moments = [row?.soon, row?.sight, row?.stands].filter(
		(at) => at !== null && at !== undefined
	);
	return moments.length > 0 ? Math.min(...moments) : null;
}

/** Works everything scheduled out again, after days without school, quiet hours or the zone have changed: first when each leaves, then who gets what. */
export async function replanAhead(db: Db, key: Buffer): Promise<void> {
	await realignZone(db);
	await realignRounds(db, key);
	const rows = await db.all<Pick<DispatchRow, 'id'>>(
		`SELECT id FROM dispatch WHERE state = 'scheduled' AND settled = 0 AND waits IS NULL ORDER BY leaves_at`
	);
	for (const { id } of rows) await replan(db, key, id);
	await db.write(retimeFeeds);
	await countStanding(db);
}
