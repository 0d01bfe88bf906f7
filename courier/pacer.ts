/** How many copies of a way may be handed over now, so that no minute has more than its provider takes. */
export interface Pacer {
	/** Copies that may leave at an instant (ms of the job's clock); `perMinute` null is as many as there are. */
	room(way: string, perMinute: number | null, now: number): number;
	/** Says that so many have been taken on. */
	used(way: string, copies: number): void;
}

/** A bucket for each way: it holds a minute's copies at most, and fills again as the job's time passes. */
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
				buckets.set(way, (bucket = { left: perMinute, at: now, perMinute }));
			}
			// A clock that was set back gives nothing.
			const passed = Math.max(0, now - bucket.at);
			bucket.left = Math.min(perMinute, bucket.left + (passed * perMinute) / 60_000);
			bucket.at = now;
			return Math.floor(bucket.left);
		},
		used(way, copies) {
			const bucket = buckets.get(way);
			if (bucket) bucket.left -= copies;
		}
	};
}
