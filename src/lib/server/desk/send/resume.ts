import { writeDown } from '../../access/log';
import { isAllowed } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import type { Db } from '../../db/open';
import { replan } from './replan';
import type { DispatchRow } from '../../db/models/dispatch';

export type Resumed = { readonly ok: true } | { readonly ok: false; readonly why: string };

/** Lets a dispatch that waits for an answer go as it stands, at its time; where that is past, at once. */
export async function resume(
	db: Db,
	key: Buffer,
	user: User,
	dispatchId: number
): Promise<Resumed> {
	const resumed = await db.write(async (tx): Promise<Resumed> => {
		const row = await tx.one<Pick<DispatchRow, 'senderId' | 'schoolId'> & { leavesAt: number }>(
			`SELECT sender_id AS senderId, school_id AS schoolId, leaves_at AS leavesAt FROM dispatch
			WHERE id = $id AND state = 'scheduled' AND waits IS NOT NULL`,
			{ id: dispatchId }
		);
		if (!row || !isAllowed(user, 'handle', row.senderId)) {
			return { ok: false, why: 'It no longer waits, or it is not yours.' };
		}
		const time = await now(tx);
		await tx.run(
			`UPDATE dispatch SET own_time = CASE WHEN waits_code IS NULL THEN own_time ELSE 1 END, waits = NULL, waits_code = NULL,
				settled = 0, leaves_at = $at, changed_at = $time, changed_by = $user
			WHERE id = $id`,
			{
				id: dispatchId,
				at: Math.max(row.leavesAt, Math.ceil(time)),
				time,
				user: user.personId
			}
		);
		await writeDown(tx, {
			...{ act: 'sheet-resumed', by: user, to: ['dispatch', dispatchId] },
			...{ schoolId: row.schoolId, after: { leavesAt: Math.max(row.leavesAt, Math.ceil(time)) } }
		});
		return { ok: true };
	});
	if (resumed.ok) await replan(db, key, dispatchId);
	return resumed;
}
