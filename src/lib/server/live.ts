import type { Db } from './db/open';
import type { DeliveryRow } from './db/models/delivery';

/**
 * Tells open pages that something happened to a dispatch. One look at the database for all viewers
 * together: evidence has rising numbers, so asking for the newest one is enough to see a change
 * that any process has made.
 */
const lookMs = 300;

type Listener = () => void;
const listeners = new Map<number, Set<Listener>>();
/** Those who have just begun to listen: what came between their page and the line is told once. */
const fresh = new Set<Listener>();
let looking: ReturnType<typeof setInterval> | undefined;
let seen = -1;
let busy = false;

async function look(db: Db): Promise<void> {
	if (busy) return;
	busy = true;
	try {
		const newest = (await db.one<{ id: number }>('SELECT coalesce(max(id), 0) AS id FROM event'))!
			.id;
		if (seen >= 0 && newest > seen) {
			const touched = await db.all<{ id: DeliveryRow['dispatchId'] }>(
				`SELECT DISTINCT dispatch_id AS id FROM event JOIN delivery ON delivery.id = delivery_id
				WHERE event.id > $seen`,
				{ seen }
			);
			for (const { id } of touched) listeners.get(id)?.forEach((tell) => tell());
		}
		seen = newest;
		fresh.forEach((tell) => tell());
		fresh.clear();
	} catch {
		// The database is busy or being replaced; the next look comes soon.
	} finally {
		busy = false;
	}
}

/** Calls `tell` whenever evidence about a dispatch has been added, until the returned function is called. */
export function listen(db: Db, dispatchId: number, tell: Listener): () => void {
	const mine = listeners.get(dispatchId) ?? new Set();
	mine.add(tell);
	fresh.add(tell);
	listeners.set(dispatchId, mine);
	looking ??= setInterval(() => void look(db), lookMs);
	return () => {
		mine.delete(tell);
		fresh.delete(tell);
		if (mine.size === 0) listeners.delete(dispatchId);
		if (listeners.size === 0 && looking) {
			clearInterval(looking);
			looking = undefined;
			seen = -1;
		}
	};
}
