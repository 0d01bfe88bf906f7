import { now } from '../../src/lib/server/clock';
import type { Stack } from './stack';

/** Copies of a way that are under way or whose time has come; what was put off has a later time. */
export async function stillDue(
	s: Stack,
	dispatchId: number,
	way: 'email' | 'text'
): Promise<number> {
	const time = await now(s.db);
	return (await s.db.one<{ n: number }>(
		`SELECT count(*) AS n FROM delivery WHERE dispatch_id = $dispatchId AND way = $way
			AND state IN ('held', 'planned') AND (claimed_by IS NOT NULL OR due_at <= $time)`,
		{ dispatchId, way, time }
	))!.n;
}
