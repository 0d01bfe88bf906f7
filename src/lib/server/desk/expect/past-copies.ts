import { zoneOf, type Clocks } from '../../../core/time/clocks';
import { byClock } from '../../../core/track/expect/ahead';
import {
	dayMs,
	tellMinutes,
	type PastCopy,
	type Reader
} from '../../../core/track/expect/past-copy';
import type { Way } from '../../../core/roster/way';
import { wentWell } from '../../db/copy-state';
import { readMany } from '../../db/many';
import type { Query } from '../../db/open';

/** How far back what people read is looked at, days. */
const pastDays = 400;

/** Only what has gone well and is old enough tells of reading. What one has asked for oneself is read by everybody: an answer of ours says nothing about a habit. */
const tells = `left_at >= $from AND left_at < $to AND ${wentWell}
	AND delivery.id NOT IN (SELECT delivery_id FROM conversation_copy)`;

/** The copies of some people that are old enough to tell at an instant (ms), those at an address they share among them. */
export async function pastCopiesOf(
	db: Query,
	people: ReadonlyMap<number, Reader>,
	clocks: Clocks,
	time: number
): Promise<PastCopy[]> {
	const clockOf = byClock();
	return readMany(
		db,
		'personId, way, dispatch_id, left_at, read_at, step',
		`FROM (SELECT person_id AS personId, way, dispatch_id, left_at, read_at, step FROM delivery
				WHERE person_id IN (SELECT value FROM json_each($ids)) AND ${tells}
			UNION ALL SELECT delivery_also.person_id, way, dispatch_id, left_at, read_at, step FROM delivery_also
				JOIN delivery ON delivery.id = delivery_id
				WHERE delivery_also.person_id IN (SELECT value FROM json_each($ids)) AND ${tells})`,
		([personId, way, dispatchId, left, read, step]): PastCopy => {
			const leftAt = left as number;
			const zone = zoneOf(clocks, people.get(personId as number)!.schoolId);
			const { hour, weekday } = clockOf(leftAt, zone);
			const minutes = read === null ? null : Math.max(0, ((read as number) - leftAt) / 60_000);
			return {
				personId: personId as number,
				way: way as Way,
				dispatchId: dispatchId as number,
				leftAt,
				hour,
				weekday,
				minutes: minutes !== null && minutes <= tellMinutes ? minutes : null,
				step: step as number
			};
		},
		{
			ids: JSON.stringify([...people.keys()]),
			from: time - pastDays * dayMs,
			to: time - tellMinutes * 60_000
		}
	);
}
