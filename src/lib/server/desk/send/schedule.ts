import { audienceWords } from '../../../core/audience/sentence';
import { isBlocked } from '../../../core/plan/check';
import { tallyOf } from '../../../core/plan/tally';
import { leavesAt } from '../../../core/time/hold';
import type { User } from '../../access/sessions';
import { now } from '../../clock';
import type { Db } from '../../db/open';
import { nameBook } from '../../db/names';
import { keptIn, markUsed } from '../audience/kept';
import { planSheet } from '../plan/plan-sheet';
import { checkSheet } from '../plan/check-sheet';
import { scheduleRound } from './rounds';
import { sheetValues } from '../sheet/sheet-row';
import { putScheduled, urgentValues } from './put-scheduled';
import type { Sheet } from '../sheet/sheet';
import type { Scheduled } from './types';

/**
 * Sends a sheet: plans it, writes the dispatch with every copy and everyone left out, and sets the
 * hold or the time. All or nothing. The same sheet sent twice (a second tap, a repeated request) is
 * one dispatch. `copiesSeen` is the number on the button: if the roster has changed since, nothing
 * is sent and the new number is said.
 */
export async function schedule(
	db: Db,
	key: Buffer,
	user: User,
	sheet: Sheet,
	copiesSeen: number
): Promise<Scheduled> {
	const planned = await planSheet(db, user, sheet);
	const { roster, manifest, spoken } = planned;
	const tally = tallyOf(manifest);
	const used = await keptIn(db, user, sheet.audience);
	return db.write(async (tx): Promise<Scheduled> => {
		const before = await tx.one<{ id: number; state: string; sender_id: number }>(
			'SELECT id, state, sender_id FROM dispatch WHERE sheet_key = $key',
			{ key: sheet.sheetKey }
		);
		const round = await tx.one<{ id: number; first: number; madeBy: number }>(
			`SELECT id, made_by AS madeBy, (SELECT min(dispatch.id) FROM dispatch WHERE round_id = round.id) AS first
			FROM round WHERE sheet_key = $key`,
			{ key: sheet.sheetKey }
		);
		if (before && before.sender_id === user.personId && before.state !== 'draft') {
			return { ok: true, dispatchId: before.id, roundId: null };
		}
		if (round && round.madeBy === user.personId && round.first !== null) {
			return { ok: true, dispatchId: round.first, roundId: round.id };
		}
		const checks = await checkSheet(tx, user, sheet, planned, tally);
		const sender = before?.sender_id ?? round?.madeBy ?? user.personId;
		if (sender !== user.personId) {
			checks.unshift({
				level: 'block',
				where: 'result',
				text: 'This sheet belongs to someone else. Open Write again and start a new one.'
			});
		}
		if (!isBlocked(checks) && tally.copies !== copiesSeen) {
			checks.unshift({
				level: 'block',
				where: 'result',
				text: `The roster has changed while you wrote: ${tally.copies} copies now, not ${copiesSeen}. Look again, then send.`
			});
		}
		if (isBlocked(checks)) return { ok: false, checks, tally };

		const time = await now(tx);
		const words = audienceWords(spoken, await nameBook(tx, spoken));
		const schools = new Set(manifest.students.map((id) => roster.person(id)?.schoolId));
		const schoolId = schools.size === 1 ? ([...schools][0] ?? null) : null;
		await markUsed(tx, used, time);
		const { kind } = sheet.timing.when;
		if (kind === 'event' || kind === 'round') {
			const made = await scheduleRound(tx, key, user, sheet, planned, words, schoolId);
			if (before) await tx.run('DELETE FROM dispatch WHERE id = $id', { id: before.id });
			return { ok: true, ...made };
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
		const dispatchId = await putScheduled(
			tx,
			key,
			before?.id ?? null,
			{
				...sheetValues(sheet, words),
				...urgentValues(sheet, user, time),
				school_id: schoolId,
				scheduled_at: time,
				leaves_at: moment.at,
				ends_at: moment.endsAt,
				...(before ? {} : { sheet_key: sheet.sheetKey, sender_id: user.personId })
			},
			sheet,
			{ ...planned, manifest: again, moment },
			time
		);
		return { ok: true, dispatchId, roundId: null };
	});
}
