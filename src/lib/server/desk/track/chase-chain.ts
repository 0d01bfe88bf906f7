import { scope } from '../../access/may';
import type { User } from '../../access/user';
import type { Query } from '../../db/open';

/** The dispatches of one matter that a user may see: the first, and those that follow it up, one another or the first. In the order they were made; drafts are none. */
export async function chainOf(db: Query, user: User, dispatchId: number): Promise<number[]> {
	const condition = scope(user).dispatches;
	const rows = await db.all<{ id: number }>(
		`WITH RECURSIVE up(id, chases) AS (
			SELECT id, chases FROM dispatch WHERE id = $id
			UNION SELECT dispatch.id, dispatch.chases FROM dispatch JOIN up ON dispatch.id = up.chases),
		down(id) AS (
			SELECT id FROM up WHERE chases IS NULL OR chases NOT IN (SELECT id FROM dispatch)
			UNION SELECT dispatch.id FROM dispatch JOIN down ON dispatch.chases = down.id)
		SELECT dispatch.id FROM down JOIN dispatch ON dispatch.id = down.id WHERE dispatch.state != 'draft' AND ${condition.sql} ORDER BY dispatch.id`,
		{ id: dispatchId, ...condition.bind }
	);
	return rows.map((r) => r.id);
}
