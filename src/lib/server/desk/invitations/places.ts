import { placesOf } from '../../../core/talk/invitation';
import { placesLeft, type Party as Place } from '../../../core/talk/seating';
import type { ComingRow } from '../../db/models/coming';
import type { Query } from '../../db/open';
import type { Asked } from '../sheet/asked';
import type { SlotLeft } from './types';

type PlaceRow = Omit<Place, 'seated'> & Pick<ComingRow, 'seated'>;

/** Whoever has places, as one for each time: of a whole district there are thousands, and only the sum matters. */
const seatedSql = `SELECT -1 - slot AS id, slot, sum(people) AS people, 0 AS turn, 1 AS seated FROM coming
	WHERE dispatch_id = $id AND comes = 1 AND seated = 1 AND id != $own GROUP BY slot`;
const lineSql = `SELECT id, slot, people, turn, seated FROM coming
	WHERE dispatch_id = $id AND comes = 1 AND (seated = 0 OR id = $own)`;

async function placesBy(db: Query, sql: string, id: number, own: number): Promise<Place[]> {
	const rows = await db.all<PlaceRow>(sql, { id, own });
	return rows.map((r) => ({ ...r, seated: r.seated === 1 }));
}

/** Everybody who comes, or wants to: those in line and `own` each for themselves, the others summed up by their time. */
export const placesTaken = (tx: Query, { id }: Pick<Asked, 'id'>, own = 0): Promise<Place[]> =>
	placesBy(tx, `${seatedSql} UNION ALL ${lineSql}`, id, own);

/** Places left, over all and in each time; null for as many as come. */
export async function leftOf(
	db: Query,
	{ id, asking }: Pick<Asked, 'id' | 'asking'>
): Promise<{ readonly left: number | null; readonly slots: readonly SlotLeft[] }> {
	const seated = await placesBy(db, seatedSql, id, 0);
	const places = placesOf(asking);
	const finite = (n: number) => (n === Infinity ? null : n);
	const all = seated.reduce((sum, p) => sum + p.people, 0);
	return {
		left: asking.places === null ? null : Math.max(0, asking.places - all),
		slots: asking.slots.map((s) => ({ ...s, left: finite(placesLeft(seated, places, s.id)) }))
	};
}

/** Whether no place is left at all: then nobody comes in, however many stand in line. */
export async function isFull(db: Query, asked: Pick<Asked, 'id' | 'asking'>): Promise<boolean> {
	const { left, slots } = await leftOf(db, asked);
	return left === 0 || (slots.length > 0 && slots.every((s) => s.left === 0));
}
