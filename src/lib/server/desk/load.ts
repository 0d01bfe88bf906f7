import { DateTime } from 'luxon';
import { readDistrict } from '../db/district';
import type { Query } from '../db/open';

/** As many messages in a day as are pointed out before one more is sent. */
export const manyToday = 3;

/** How many messages each person has had, or has waiting, on the district's day of an instant, whoever sent them; only people with more than one. */
export async function hadOnDayOf(db: Query, at: number): Promise<ReadonlyMap<number, number>> {
	const { zone } = await readDistrict(db);
	const day = DateTime.fromMillis(at, { zone }).startOf('day');
	const dispatches = await db.all<{ id: number }>(
		`SELECT id FROM dispatch WHERE state != 'draft' AND leaves_at >= $from AND leaves_at < $to`,
		{ from: day.toMillis(), to: day.plus({ days: 1 }).toMillis() }
	);
	if (dispatches.length < 2) return new Map();
	const rows = await db.all<{ personId: number; n: number }>(
		`SELECT personId, count(DISTINCT dispatchId) AS n FROM (
			SELECT person_id AS personId, dispatch_id AS dispatchId FROM delivery
				WHERE dispatch_id IN (SELECT value FROM json_each($ids))
			UNION SELECT delivery_also.person_id, dispatch_id FROM delivery_also
				JOIN delivery ON delivery.id = delivery_id
				WHERE dispatch_id IN (SELECT value FROM json_each($ids)))
		GROUP BY personId HAVING n > 1`,
		{ ids: JSON.stringify(dispatches.map((d) => d.id)) }
	);
	return new Map(rows.map((r) => [r.personId, r.n]));
}
