import type { Db } from '../db/open';

/** How often the database is looked at while anybody listens, ms. */
const lookMs = 300;

type Tell = () => void;

/** Who listens to what, with one look at the database for all of them together. */
export interface Listeners<Key> {
	/** Calls `tell` whenever something of `key` has changed, and once soon: something may have come between a page and its line. Until the returned function is called. */
	listen(db: Db, key: Key, tell: Tell): () => void;
	/** Tells whoever listens to a key now. */
	tell(key: Key): void;
}

/**
 * Rows have rising numbers, so that asking for the newest ones is enough to see what any process has changed. `newest` asks
 * for them; `changed` names what was touched between two answers that differ.
 */
export function listeners<Key, Newest>(
	newest: (db: Db) => Promise<Newest>,
	changed: (db: Db, since: Newest) => Promise<Iterable<Key>>
): Listeners<Key> {
	const all = new Map<Key, Set<Tell>>();
	const fresh = new Set<Tell>();
	let looking: ReturnType<typeof setInterval> | undefined;
	let seen: Newest | null = null;
	let busy = false;
	const tell = (key: Key) => all.get(key)?.forEach((one) => one());

	async function look(db: Db): Promise<void> {
		if (busy) return;
		busy = true;
		try {
			const now = await newest(db);
			const touched =
				seen === null || JSON.stringify(now) === JSON.stringify(seen)
					? []
					: await changed(db, seen);
			seen = now;
			for (const key of touched) tell(key);
			fresh.forEach((one) => one());
			fresh.clear();
		} catch {
			// The database is busy or being replaced; the next look comes soon.
		} finally {
			busy = false;
		}
	}
	return {
		tell,
		listen(db, key, one) {
			const mine = all.get(key) ?? new Set();
			mine.add(one);
			fresh.add(one);
			all.set(key, mine);
			looking ??= setInterval(() => void look(db), lookMs);
			return () => {
				mine.delete(one);
				fresh.delete(one);
				if (mine.size === 0) all.delete(key);
				if (all.size > 0 || !looking) return;
				clearInterval(looking);
				looking = undefined;
				seen = null;
			};
		}
	};
}
