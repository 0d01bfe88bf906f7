import type { Db } from '../db/open';
import { listeners } from './listeners';

/** The newest of what is looked at: evidence on copies, and answers to invitations, which may be evidence on none. */
interface Newest {
	readonly event: number;
	readonly said: number;
}

const ofDispatches = listeners<number, Newest>(
	async (db) =>
		(await db.one<Newest>(
			`SELECT coalesce((SELECT max(id) FROM event), 0) AS event, coalesce((SELECT max(id) FROM coming_said), 0) AS said`
		))!,
	async (db, { event, said }) =>
		(
			await db.all<{ id: number }>(
				`SELECT dispatch_id AS id FROM event JOIN delivery ON delivery.id = delivery_id WHERE event.id > $event
				UNION SELECT dispatch_id FROM coming_said JOIN coming ON coming.id = coming_id WHERE coming_said.id > $said`,
				{ event, said }
			)
		).map((d) => d.id)
);

/** Calls `tell` whenever evidence about a dispatch, or an answer to what it asks, has been added, until the returned function is called. */
export const listen = (db: Db, dispatchId: number, tell: () => void): (() => void) =>
	ofDispatches.listen(db, dispatchId, tell);
