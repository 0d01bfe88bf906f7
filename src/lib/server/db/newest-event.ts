import type { Query } from './open';

/** Number of the newest event of all; 0 where there is none. */
export const newestEvent = async (db: Query): Promise<number> =>
	(await db.one<{ id: number }>('SELECT coalesce(max(id), 0) AS id FROM event'))!.id;
