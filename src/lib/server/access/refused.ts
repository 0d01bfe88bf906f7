import { RateLimiterMemory } from 'rate-limiter-flexible';
import type { Db } from '../db/open';
import { writeDown } from './log';
import type { User } from './user';

/** So many tries of one person are written down in an hour: whoever tries on and on must not fill the disk by it. */
const mostAnHour = new RateLimiterMemory({ points: 60, duration: 3600 });

/** Writes down what somebody tried without the right to it. */
export async function writeRefused(db: Db, user: User, acts: readonly string[]): Promise<void> {
	const tried = [...new Set(acts)];
	const within = await mostAnHour.consume(user.personId).then(
		() => true,
		() => false
	);
	if (!within) return;
	await db.write((tx) =>
		writeDown(tx, ...tried.map((what) => ({ act: 'refused' as const, by: user, after: { what } })))
	);
}
