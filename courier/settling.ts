import type { Db } from '../src/lib/server/db/open';
import { zoneMoved } from '../src/lib/server/desk/send/realign';
import { holdUp, nextToPlan } from '../src/lib/server/desk/send/replan';
import type { Identity } from './identity';

/** Times in a row that a dispatch cannot be planned before it waits for its sender. */
const mostTroubles = 5;

/** Works out what leaves soon, as the roster is now; the function it makes resolves to the number of dispatches, 0 also where another courier holds the office. */
export function settling(
	db: Db,
	me: Identity,
	{
		plan,
		follow
	}: {
		readonly plan: (dispatchId: number) => Promise<void>;
		readonly follow: () => Promise<void>;
	}
): () => Promise<number> {
	/** How often in a row each dispatch could not be planned. */
	const troubles = new Map<number, number>();
	return async () => {
		let done = 0;
		if (await zoneMoved(db)) await follow();
		for (let before: number | null = null; ;) {
			if (!(await me.holds(db))) return done;
			const id = await nextToPlan(db);
			// One that is still there after it was planned is looked at again in the next round.
			if (id === null || id === before) return done;
			before = id;
			try {
				await plan(id);
				troubles.delete(id);
				done += 1;
			} catch (error) {
				const times = (troubles.get(id) ?? 0) + 1;
				troubles.set(id, times);
				// A passing trouble passes; what fails again and again must not stand in the way of others.
				if (times >= mostTroubles) {
					await holdUp(db, id, `It could not be worked out: ${(error as Error).message}`);
				}
			}
		}
	};
}
