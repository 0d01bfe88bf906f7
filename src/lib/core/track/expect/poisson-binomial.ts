/** Something that happens with a chance, to several at once: what a family reads covers all its students. */
export interface Trial {
	/** 0 to 1. */
	readonly chance: number;
	/** To how many at once; 1 for a single one. */
	readonly size: number;
}

/** The chance of each number, from 0 on; they come to 1. */
export type CountChances = Float64Array;

/** Chances below this are left out while they are summed up: far less than any figure that is said. */
const negligible = 1e-15;

/**
 * The chances of how many it happens to in all, of trials that do not hang on each other: the Poisson-binomial
 * distribution (Poisson 1837; Wang 1993), by adding one trial after another. Exact but for what is negligible; where
 * chances are neither 0 nor 1 the numbers that matter lie close together, so that tens of thousands take milliseconds.
 */
export function countChances(trials: readonly Trial[]): CountChances {
	const most = trials.reduce((sum, t) => sum + t.size, 0);
	const chances = new Float64Array(most + 1);
	chances[0] = 1;
	/** The numbers that matter so far. */
	let [low, high] = [0, 0];
	for (const { chance: p, size } of trials) {
		if (size === 0 || p <= 0) continue;
		for (let k = high; k >= low; k -= 1) {
			const here = chances[k]!;
			chances[k + size]! += here * p;
			chances[k] = here * (1 - p);
		}
		high += size;
		while (low < high && chances[low]! < negligible) chances[low++] = 0;
		while (high > low && chances[high]! < negligible) chances[high--] = 0;
	}
	return chances;
}

/** How many it happens to on average. */
export const expectedCount = (trials: readonly Trial[]): number =>
	trials.reduce((sum, t) => sum + t.chance * t.size, 0);

/** Several such distributions, each with its weight; the weights come to 1. */
export function mixed(
	parts: readonly { readonly weight: number; readonly chances: CountChances }[]
): CountChances {
	const sum = new Float64Array(Math.max(0, ...parts.map((p) => p.chances.length)));
	for (const { weight, chances } of parts)
		for (let k = 0; k < chances.length; k += 1) sum[k]! += weight * chances[k]!;
	return sum;
}

/** The numbers between which it lies with a share of all such cases, as much left out below as above. */
export function bandOf(
	chances: CountChances,
	share: number
): { readonly low: number; readonly high: number } {
	const outside = (1 - share) / 2;
	const reach = (part: number): number => {
		let sum = 0;
		for (let k = 0; k < chances.length; k += 1) {
			sum += chances[k]!;
			// The last figures of a sum of many are not to be trusted.
			if (sum >= part - 1e-12) return k;
		}
		return chances.length - 1;
	};
	return { low: reach(outside), high: reach(1 - outside) };
}
