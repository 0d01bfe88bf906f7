import { LRUCache } from 'lru-cache';

/** What was worked out from a database, kept beside it under a key that says all that it rests on. */
export interface Memory<V> {
	/** What is kept under a key, or is made now: once, however many ask for it meanwhile. What fails is not kept. */
	get(beside: object, key: string, make: () => Promise<V>): Promise<V>;
	/** Forgets all but one. */
	keepOnly(beside: object, key: string): void;
}

/** Keeps the `most` that were asked for last, for each database. */
export function remembering<V>(most: number): Memory<V> {
	const caches = new WeakMap<object, LRUCache<string, Promise<V>>>();
	return {
		get(beside, key, make) {
			let cache = caches.get(beside);
			if (!cache) caches.set(beside, (cache = new LRUCache({ max: most })));
			const before = cache.get(key);
			if (before) return before;
			const made = make();
			cache.set(key, made);
			made.catch(() => {
				// Another may have been made under it meanwhile.
				if (cache.peek(key) === made) cache.delete(key);
			});
			return made;
		},
		keepOnly(beside, key) {
			const cache = caches.get(beside);
			for (const other of [...(cache?.keys() ?? [])]) if (other !== key) cache!.delete(other);
		}
	};
}
