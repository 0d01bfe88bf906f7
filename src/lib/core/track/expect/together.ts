/**
 * What does not happen to several who hang on each other: readers of one household, or the ways that reach one person.
 * Somewhere between two ends: that each is for itself (the product of the chances that it does not), and that they go
 * wholly together (the least of them). `bound` says where, 0 for the first end and 1 for the second; the mixture of a
 * product and a comonotone copula (Nelsen, An Introduction to Copulas, 2006, section 2.2, 2.5).
 */
export function noneOf(misses: readonly number[], bound: number): number {
	if (misses.length === 0) return 1;
	let product = 1;
	let least = 1;
	for (const q of misses) {
		product *= q;
		least = Math.min(least, q);
	}
	return (1 - bound) * product + bound * least;
}

/** What was seen of some who may hang on each other: each one's chance not to, and whether indeed none did. */
export interface SeenTogether {
	readonly misses: readonly number[];
	readonly none: boolean;
	/** How much it counts. */
	readonly weight: number;
}

/** Fewer than this say nothing of how they hang together. */
const fewest = 30;

/** How closely they hang together, by matching how often none did to what both ends would give; 0 where too little was seen. */
export function boundFrom(seen: readonly SeenTogether[]): number {
	const several = seen.filter((s) => s.misses.length > 1);
	if (several.length < fewest) return 0;
	let [none, apart, whole] = [0, 0, 0];
	for (const { misses, none: was, weight } of several) {
		if (was) none += weight;
		apart += weight * noneOf(misses, 0);
		whole += weight * noneOf(misses, 1);
	}
	return whole - apart < 1e-9 ? 0 : Math.min(1, Math.max(0, (none - apart) / (whole - apart)));
}
