import type { Way } from '../src/lib/core/roster/way';
import type { Db } from '../src/lib/server/db/open';
import { readingOf } from '../standin/readers/habit';

/** Lets a dispatch of a made past leave, and be read by the stand-in readers’ habits, by its rows alone: no letter is sent. */
export async function readByHabit(db: Db, dispatchId: number, seed: string): Promise<void> {
	const copies = await db.all<{
		id: number;
		personId: number;
		way: Way;
		dueAt: number;
		address: string | null;
	}>(
		'SELECT id, person_id AS personId, way, due_at AS dueAt, address FROM delivery WHERE dispatch_id = $id',
		{ id: dispatchId }
	);
	const rows = copies.map(({ id, personId, way, dueAt, address }) => {
		const reading = readingOf(seed, address ?? `person-${personId}`, String(id), way);
		return [id, reading.opens ? Math.round(dueAt + reading.afterMinutes * 60_000) : null];
	});
	await db.run(
		`UPDATE delivery SET left_at = due_at, read_at = value ->> 1,
			state = CASE WHEN value ->> 1 IS NULL THEN 'delivered' ELSE 'read' END
		FROM json_each($rows) WHERE delivery.id = value ->> 0`,
		{ rows: JSON.stringify(rows) }
	);
	await db.run(
		`UPDATE dispatch SET state = 'sent', sent_at = leaves_at, settled = 1, evidence = evidence + 1, plan = plan + 1,
			reported_at = leaves_at WHERE id = $id`,
		{ id: dispatchId }
	);
}
