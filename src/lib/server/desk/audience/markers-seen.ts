import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { markerNames, markerStands, type MarkerName } from '../../db/markers';
import type { Query } from '../../db/open';

/** The markers that a user can use today. */
export async function markersOfUser(db: Query, user: User): Promise<MarkerName[]> {
	const [mine, stands] = [scope(user).markers, await markerStands(db)];
	return markerNames(db, `${mine.sql} AND ${stands.sql}`, { ...mine.bind, ...stands.bind });
}

/** Which of some markers a user can use today. */
export async function markersThere(
	db: Query,
	user: User,
	ids: readonly number[]
): Promise<number[]> {
	if (ids.length === 0) return [];
	const wanted = new Set(ids);
	return (await markersOfUser(db, user)).flatMap((m) => (wanted.has(m.id) ? m.id : []));
}
