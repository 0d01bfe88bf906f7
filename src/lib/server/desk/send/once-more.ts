import { writeDown } from '../../access/log';
import { isAllowed } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { isUnsure } from '../../db/copy-state';
import type { Db } from '../../db/open';
import { record } from '../track/record';
import type { DispatchRow } from '../../db/models/dispatch';
import type { DeliveryRow } from '../../db/models/delivery';

export type SentOnceMore =
	{ readonly ok: true; readonly copies: number } | { readonly ok: false; readonly why: string };

/**
 * Has the copies of a dispatch that may have arrived sent once more, now that a person has looked at them. Each carries
 * the Message-ID or reference it had, by which a mailbox may tell the repeat.
 */
export async function sendOnceMore(db: Db, user: User, dispatchId: number): Promise<SentOnceMore> {
	return db.write(async (tx): Promise<SentOnceMore> => {
		const dispatch = await tx.one<Pick<DispatchRow, 'senderId' | 'schoolId'>>(
			`SELECT sender_id AS senderId, school_id AS schoolId FROM dispatch WHERE id = $id AND state != 'draft'`,
			{ id: dispatchId }
		);
		if (!dispatch || !isAllowed(user, 'handle', dispatch.senderId)) {
			return { ok: false, why: 'There is no such dispatch of yours.' };
		}
		const copies = await tx.all<Pick<DeliveryRow, 'id'>>(
			`SELECT id FROM delivery WHERE dispatch_id = $id AND ${isUnsure}`,
			{ id: dispatchId }
		);
		if (copies.length === 0)
			return { ok: false, why: 'No copy is unsure any more. Load the page again.' };
		const at = await now(tx);
		await record(
			tx,
			copies.map(({ id }) => ({
				deliveryId: id,
				at,
				kind: 'once-more' as const,
				source: 'by hand' as const,
				detail: 'sent once more, since it may not have arrived',
				said: user.name
			}))
		);
		const ids = JSON.stringify(copies.map((c) => c.id));
		await tx.run(
			`UPDATE delivery SET due_at = $at, attempts = 0, unanswered = 0 WHERE id IN (SELECT value FROM json_each($ids))`,
			{ at, ids }
		);
		await tx.run(`UPDATE dispatch SET state = 'scheduled', settled = 1 WHERE id = $id`, {
			id: dispatchId
		});
		await writeDown(tx, {
			...{ act: 'sheet-once-more', by: user, to: ['dispatch', dispatchId] },
			...{ schoolId: dispatch.schoolId, after: { copies: copies.length } }
		});
		return { ok: true, copies: copies.length };
	});
}
