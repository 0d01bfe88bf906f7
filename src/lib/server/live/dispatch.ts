import type { DeliveryRow } from '../db/models/delivery';
import type { Db } from '../db/open';
import { listeners } from './listeners';

const ofDispatches = listeners<number, number>(
	async (db) => (await db.one<{ id: number }>('SELECT coalesce(max(id), 0) AS id FROM event'))!.id,
	async (db, since) =>
		(
			await db.all<{ id: DeliveryRow['dispatchId'] }>(
				`SELECT DISTINCT dispatch_id AS id FROM event JOIN delivery ON delivery.id = delivery_id
				WHERE event.id > $since`,
				{ since }
			)
		).map((d) => d.id)
);

/** Calls `tell` whenever evidence about a dispatch has been added, until the returned function is called. */
export const listen = (db: Db, dispatchId: number, tell: () => void): (() => void) =>
	ofDispatches.listen(db, dispatchId, tell);
