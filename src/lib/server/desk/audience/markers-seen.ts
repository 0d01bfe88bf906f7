import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { markerNames, markerStands, type MarkerName } from '../../db/markers';
import type { Query } from '../../db/open';

/** The markers that a user can use today, or those of some ids. */
export async function markersOfUser(
	db: Query,
	user: User,
	ids: readonly number[] | null = null
): Promise<MarkerName[]> {
	const [mine, stands] = [scope(user).markers, await markerStands(db)];
	const among = ids === null ? '1' : 'marker.id IN (SELECT value FROM json_each($ids))';
	return markerNames(db, `${among} AND ${mine.sql} AND ${stands.sql}`, {
		...mine.bind,
		...stands.bind,
		...(ids === null ? {} : { ids: JSON.stringify(ids) })
	});
}

/** Which of some markers a user can use today. */
export async function markersThere(
	db: Query,
	user: User,
	ids: readonly number[]
): Promise<number[]> {
	if (ids.length === 0) return [];
	const found = await markersOfUser(db, user, ids);
	return found.map((m) => m.id);
}
