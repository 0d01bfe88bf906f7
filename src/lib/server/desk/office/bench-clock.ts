import { moveTo, now } from '../../clock';
import { waits } from '../../db/copy-state';
import type { Db } from '../../db/open';
import { nextFeed } from '../send/feed-dates';

/** How far the bench clock is moved. */
export type Step = 'minute' | 'hour' | 'next';

/** Moves the bench clock on. `next` goes to the next copy due, or feed to be asked; where nothing is due it stays and says so. */
export async function moveOn(
	db: Db,
	step: Step
): Promise<{ readonly now: number; readonly why?: string }> {
	const time = await now(db);
	if (step === 'minute') return { now: await moveTo(db, time + 60_000) };
	if (step === 'hour') return { now: await moveTo(db, time + 3_600_000) };
	const due = await db.one<{ at: number | null }>(
		`SELECT min(due_at) AS at FROM delivery WHERE ${waits} AND due_at > $time`,
		{ time }
	);
	const feed = await nextFeed(db);
	const moments = [due?.at, feed].flatMap((at) => (at != null && at > time ? [at] : []));
	if (moments.length === 0) return { now: time, why: 'Nothing is due. Write something first.' };
	return { now: await moveTo(db, Math.min(...moments)) };
}
