import { writeDown } from '../../access/log';
import { now } from '../../clock';
import { isAllowed } from '../../access/may';
import type { User } from '../../access/user';
import type { Db } from '../../db/open';
import { record } from '../track/record';
import { free } from '../../db/copy-state';
import type { DispatchRow } from '../../db/models/dispatch';
import type { DeliveryRow } from '../../db/models/delivery';

export type Stopped =
	| { readonly ok: true; readonly stopped: number; readonly left: number }
	| { readonly ok: false; readonly why: string };

/**
 * Stops what has not left yet of a dispatch that is on its way: those copies are not sent, and say
 * who stopped them. What has left cannot be taken back; how many that are comes back.
 */
export async function stopRest(db: Db, user: User, dispatchId: number): Promise<Stopped> {
	return db.write(async (tx): Promise<Stopped> => {
		const dispatch = await tx.one<Pick<DispatchRow, 'state' | 'senderId' | 'schoolId'>>(
			'SELECT state, sender_id AS senderId, school_id AS schoolId FROM dispatch WHERE id = $id',
			{ id: dispatchId }
		);
		if (!dispatch || dispatch.state === 'draft' || !isAllowed(user, 'handle', dispatch.senderId)) {
			return { ok: false, why: 'There is no such dispatch of yours.' };
		}
		const waiting = await tx.all<Pick<DeliveryRow, 'id'>>(
			`SELECT id FROM delivery WHERE dispatch_id = $id AND ${free}`,
			{ id: dispatchId }
		);
		const time = await now(tx);
		await record(
			tx,
			waiting.map(({ id }) => ({
				deliveryId: id,
				at: time,
				kind: 'stopped' as const,
				source: 'by hand' as const,
				code: 'by-hand',
				detail: 'stopped before it left',
				said: user.name
			}))
		);
		await tx.run('UPDATE dispatch SET changed_at = $time WHERE id = $id', { id: dispatchId, time });
		const all = (await tx.one<{ n: number }>(
			'SELECT count(*) AS n FROM delivery WHERE dispatch_id = $id',
			{ id: dispatchId }
		))!;
		const left = all.n - waiting.length;
		await writeDown(tx, {
			...{ act: 'sheet-stopped', by: user, to: ['dispatch', dispatchId] },
			...{ schoolId: dispatch.schoolId, after: { stopped: waiting.length, left } }
		});
		return { ok: true, stopped: waiting.length, left };
	});
}
