import { writeDown } from '../../access/log';
import { now } from '../../clock';
import { isAllowed } from '../../access/may';
import type { User } from '../../access/user';
import type { Db } from '../../db/open';
import { clearPlan } from './write-plan';
import { schoolEvent } from '../../db/models/calendar';
import { touched } from '../../db/copy-state';
import type { DispatchRow } from '../../db/models/dispatch';

export type CalledBack = { readonly ok: true } | { readonly ok: false; readonly why: string };

/**
 * Calls a dispatch back before it leaves: it is a draft again, its wording and picks unchanged,
 * its copies gone. The write lock and the courier's claim decide who came first; once a copy has
 * been claimed it is too late, and the answer says so.
 */
export async function callBack(db: Db, user: User, dispatchId: number): Promise<CalledBack> {
	return db.write(async (tx): Promise<CalledBack> => {
		const dispatch = await tx.one<
			Pick<DispatchRow, 'state' | 'waits'> & {
				leaves_at: number;
				sender_id: DispatchRow['senderId'];
				round_id: DispatchRow['roundId'];
				school_id: DispatchRow['schoolId'];
			}
		>(
			`SELECT state, leaves_at, sender_id, round_id, school_id, waits FROM dispatch WHERE id = $id AND kind != 'answer'`,
			{
				id: dispatchId
			}
		);
		if (!dispatch || !isAllowed(user, 'handle', dispatch.sender_id)) {
			return { ok: false, why: 'There is no such dispatch of yours.' };
		}
		if (dispatch.state === 'draft') return { ok: true };
		const gone = await tx.one<{ n: number }>(
			`SELECT count(*) AS n FROM delivery
			WHERE dispatch_id = $id AND ${touched}`,
			{ id: dispatchId }
		);
		const time = await now(tx);
		if (gone!.n > 0 || (dispatch.leaves_at <= time && dispatch.waits === null)) {
			return {
				ok: false,
				why: `${gone!.n} ${gone!.n === 1 ? 'copy has' : 'copies have'} left. It can no longer be called back; what has not left can be stopped.`
			};
		}
		await clearPlan(tx, dispatchId);
		// Nobody outside has seen it: what it would have put into the calendar goes with it.
		await tx.run(
			`DELETE FROM school_event WHERE dispatch_id = $id AND id NOT IN (SELECT event_id FROM round WHERE event_id IS NOT NULL)`,
			{ id: dispatchId }
		);
		await tx.rows(schoolEvent).change({ dispatchId }, { state: 'called-off' });
		await tx.run('DELETE FROM dispatch_file WHERE dispatch_id = $id', { id: dispatchId });
		// A date of a round goes its own way from here.
		await tx.run(
			`UPDATE dispatch SET state = 'draft', scheduled_at = NULL, leaves_at = NULL, ends_at = NULL,
				waits = NULL, waits_code = NULL, settled = 1, own_time = $own, changed_at = $time WHERE id = $id`,
			{ id: dispatchId, time, own: dispatch.round_id === null ? 0 : 1 }
		);
		await writeDown(tx, {
			...{ act: 'sheet-called-back', by: user, to: ['dispatch', dispatchId] },
			...{ schoolId: dispatch.school_id, before: { leavesAt: dispatch.leaves_at } }
		});
		return { ok: true };
	});
}
