import type { Db } from '../src/lib/server/db/open';
import { zoneMoved } from '../src/lib/server/desk/send/realign';
import { holdUpStanding, nextToRelease } from '../src/lib/server/desk/send/release';
import { holdUp, nextToPlan } from '../src/lib/server/desk/send/replan';
import { standUp } from '../src/lib/server/desk/send/stand-up';
import type { Identity } from './identity';

/** Times in a row that something cannot be planned before it waits for its sender. */
const mostTroubles = 5;

/** Works out what leaves soon, as the roster is now; the function it makes resolves to the number of dispatches, 0 also where another courier holds the office. */
export function settling(
	db: Db,
	me: Identity,
	{
		plan,
		release,
		follow
	}: {
		readonly plan: (dispatchId: number) => Promise<void>;
		readonly release: (standingId: number) => Promise<void>;
		readonly follow: () => Promise<void>;
	}
): () => Promise<number> {
	const sheets = workingOut(db, me, {
		next: nextToRelease,
		work: release,
		holdUp: holdUpStanding
	});
	const dispatches = workingOut(db, me, { next: nextToPlan, work: plan, holdUp });
	return async () => {
		if (await zoneMoved(db)) await follow();
		await standUp(db);
		// What is let go is a dispatch then, and leaves with the others.
		return (await sheets()) + (await dispatches());
	};
}

/** Works one kind of thing out, one after another, until there is none or another courier holds the office. */
function workingOut(
	db: Db,
	me: Identity,
	{
		next,
		work,
		holdUp: stop
	}: {
		readonly next: (db: Db) => Promise<number | null>;
		readonly work: (id: number) => Promise<void>;
		readonly holdUp: (db: Db, id: number, why: string) => Promise<unknown>;
	}
): () => Promise<number> {
	/** How often in a row each could not be worked out. */
	const troubles = new Map<number, number>();
	return async () => {
		let done = 0;
		for (let before: number | null = null; ;) {
			if (!(await me.holds(db))) return done;
			const id = await next(db);
			// One that is still there after it was worked out is looked at again in the next round.
			if (id === null || id === before) return done;
			before = id;
			try {
				await work(id);
				troubles.delete(id);
				done += 1;
			} catch (error) {
				const times = (troubles.get(id) ?? 0) + 1;
				troubles.set(id, times);
				// A passing trouble passes; what fails again and again must not stand in the way of others.
				if (times >= mostTroubles) {
					await stop(db, id, `It could not be worked out: ${(error as Error).message}`);
				}
			}
		}
	};
}
