import { now } from '../clock';
import type { User } from '../access/sessions';
import type { Db } from '../db/open';

export type CalledBack = { readonly ok: true } | { readonly ok: false; readonly why: string };

/**
 * Calls a dispatch back while its hold runs: it is a draft again, its wording and picks unchanged,
 * its copies gone. The write lock and the courier's claim decide who came first; once a copy has
 * been claimed it is too late, and the answer says so.
 */
export async function callBack(db: Db, user: User, dispatchId: number): Promise<CalledBack> {
	return db.write(async (tx): Promise<CalledBack> => {
		const dispatch = await tx.one<{ state: string; leaves_at: number; sender_id: number }>(
			'SELECT state, leaves_at, sender_id FROM dispatch WHERE id = $id',
			{ id: dispatchId }
		);
		if (!dispatch || (dispatch.sender_id !== user.personId && user.role !== 'coordinator')) {
			return { ok: false, why: 'There is no such dispatch of yours.' };
		}
		if (dispatch.state === 'draft') return { ok: true };
		const gone = await tx.one<{ n: number }>(
			`SELECT count(*) AS n FROM delivery
			WHERE dispatch_id = $id AND (state NOT IN ('held', 'planned') OR claimed_by IS NOT NULL OR attempts > 0)`,
			{ id: dispatchId }
		);
		if (gone!.n > 0 || dispatch.leaves_at <= (await now(tx))) {
			return {
				ok: false,
				why: `The hold is over and ${gone!.n} copies have left. It can no longer be called back.`
			};
		}
		await tx.run('DELETE FROM delivery WHERE dispatch_id = $id', { id: dispatchId });
		await tx.run('DELETE FROM dispatch_student WHERE dispatch_id = $id', { id: dispatchId });
		await tx.run('DELETE FROM left_out WHERE dispatch_id = $id', { id: dispatchId });
		await tx.run('DELETE FROM dispatch_file WHERE dispatch_id = $id', { id: dispatchId });
		await tx.run(
			`UPDATE dispatch SET state = 'draft', scheduled_at = NULL, leaves_at = NULL,
				changed_at = $time WHERE id = $id`,
			{ id: dispatchId, time: await now(tx) }
		);
		return { ok: true };
	});
}
