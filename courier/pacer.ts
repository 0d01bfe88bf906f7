/** How many copies of a way may be handed over now, so that no minute has more than its provider takes. */
export interface Pacer {
	/** Copies that may leave at an instant (ms of the job's clock); `perMinute` null is as many as there are. */
	room(way: string, perMinute: number | null, now: number): number;
	/** Says that so many have been taken on. */
	used(way: string, copies: number): void;
}

/**
 * The copies that a way holds ready at its pace: a second's worth. More would leave in one burst
 * after a rest, which is what a provider that names a pace does not want, and what a kill repeats.
 */
export const burstOf = (perMinute: number): number => Math.max(1, Math.floor(perMinute / 60));

/** A bucket for each way, empty at its start: it holds a burst at most, and fills again as the job's time passes. */
export function pacer(): Pacer {
	const buckets = new Map<string, { left: number; at: number; perMinute: number | null }>();
	return {
		room(way, perMinute, now) {
			if (perMinute === null) {
				buckets.delete(way);
				return Infinity;
			}
			let bucket = buckets.get(way);
			if (!bucket || bucket.perMinute !== perMinute) {
				buckets.set(way, (bucket = { left: 0, at: now, perMinute }));
			}
			// A clock that was set back gives nothing.
			const passed = Math.max(0, now - bucket.at);
			bucket.left = Math.min(burstOf(perMinute), bucket.left + (passed * perMinute) / 60_000);
			bucket.at = now;
			return Math.floor(bucket.left);
		},
		used(way, copies) {
			const bucket = buckets.get(way);
			if (bucket) bucket.left -= copies;
		}
	};
}
