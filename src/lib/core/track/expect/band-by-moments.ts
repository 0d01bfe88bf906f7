import { normalBelow } from './normal';
import type { Trial } from './poisson-binomial';

/** Mean, spread and skewness of a sum of trials that do not hang on each other: their cumulants add up. */
function momentsOf(trials: readonly Trial[]) {
	let [mean, variance, third] = [0, 0, 0];
	for (const { chance: p, size } of trials) {
		mean += size * p;
		variance += size ** 2 * p * (1 - p);
		third += size ** 3 * p * (1 - p) * (1 - 2 * p);
	}
	const spread = Math.sqrt(variance);
	return { mean, spread, skew: spread === 0 ? 0 : third / spread ** 3 };
}

/**
 * The chance that it comes to no more than k, by the refined normal approximation of the Poisson-binomial distribution (Volkova
 * 1996, as in Y. Hong, Computational Statistics & Data Analysis 59, 2013, 41–51, section 2.5).
 */
function atMost(k: number, { mean, spread, skew }: ReturnType<typeof momentsOf>): number {
	if (spread === 0) return k >= Math.round(mean) ? 1 : 0;
	const x = (k + 0.5 - mean) / spread;
	const density = Math.exp(-(x ** 2) / 2) / Math.sqrt(2 * Math.PI);
	return Math.min(1, Math.max(0, normalBelow(x) + (skew * (1 - x ** 2) * density) / 6));
}

/** The numbers between which several cases lie together with a share, as much left out below as above; for many trials, where it is as good as exact. */
export function bandByMoments(
	cases: readonly { readonly weight: number; readonly trials: readonly Trial[] }[],
	share: number
): { readonly low: number; readonly high: number } {
	const known = cases.map(({ weight, trials }) => ({ weight, moments: momentsOf(trials) }));
	const most = cases[0]!.trials.reduce((sum, t) => sum + t.size, 0);
	/** The least number that it comes to at most with this chance, by halving. */
	const reach = (part: number): number => {
		let [low, high] = [0, most];
		while (low < high) {
			const middle = (low + high) >> 1;
			const chance = known.reduce((sum, c) => sum + c.weight * atMost(middle, c.moments), 0);
			if (chance >= part) high = middle;
			else low = middle + 1;
		}
		return low;
	};
	const outside = (1 - share) / 2;
	return { low: reach(outside), high: reach(1 - outside) };
}
