import { newestEvent } from '../db/newest-event';
import type { Db } from '../db/open';
import { listeners } from './listeners';

const idsOf = async (db: Db, sql: string, since: number): Promise<number[]> =>
	(await db.all<{ id: number }>(sql, { since })).map((d) => d.id);

const ofEvidence = listeners<number, number>(newestEvent, (db, since) =>
	idsOf(
		db,
		`SELECT DISTINCT dispatch_id AS id FROM event JOIN delivery ON delivery.id = delivery_id WHERE event.id > $since`,
		since
	)
);
const newestSaid = async (db: Db) =>
	(await db.one<{ id: number }>('SELECT coalesce(max(id), 0) AS id FROM coming_said'))!.id;
const ofSaid = listeners<number, number>(newestSaid, (db, since) =>
	idsOf(
		db,
		`SELECT DISTINCT dispatch_id AS id FROM coming_said JOIN coming ON coming.id = coming_id WHERE coming_said.id > $since`,
		since
	)
);

/** Calls `tell` whenever evidence about a dispatch has been added, until the returned function is called. */
export const listenToEvidence = (db: Db, dispatchId: number, tell: () => void): (() => void) =>
	ofEvidence.listen(db, dispatchId, tell);

/** Calls `tell` whenever somebody has answered what a dispatch asks, which may be evidence on no copy, until the returned function is called. */
export const listenToSaid = (db: Db, dispatchId: number, tell: () => void): (() => void) =>
	ofSaid.listen(db, dispatchId, tell);
