/** What was seen of one of many alike: of how many, how many it happened to. Weights may make both fractions. */
export interface SeenShare {
	readonly of: number;
	readonly count: number;
	/** What is to be expected of it before anything of its own is seen. */
	readonly expected: number;
}

/** Bounds of a strength: it neither vanishes nor drowns what is seen of one. */
const weakest = 1;
const strongest = 400;

/**
 * How many of one's own weigh as much as what is expected of it: the strength of a beta distribution around the expected
 * share, by the method of moments (Kleinman 1973, Journal of the American Statistical Association 68, 46–54): what shares
 * lie apart beyond what their numbers alone would give. The more they really differ, the less it is. Null where there are
 * too few to tell.
 */
export function strengthOf(seen: readonly SeenShare[]): number | null {
	let [off, chance, room, several] = [0, 0, 0, 0];
	for (const { of, count, expected } of seen) {
		if (of <= 1) continue;
		several += 1;
		const variance = expected * (1 - expected);
		// E (count − of·expected)² = of·variance·(1 + (of − 1)·r), with r = 1 / (strength + 1).
		off += (count - of * expected) ** 2;
		chance += of * variance;
		room += of * (of - 1) * variance;
	}
	if (several < 8 || room <= 0) return null;
	const r = (off - chance) / room;
	return r <= 1 / (strongest + 1) ? strongest : Math.max(weakest, 1 / r - 1);
}

/** A share drawn to what is expected, by how strongly. */
export const drawn = ({ of, count, expected }: SeenShare, strength: number): number =>
	(expected * strength + count) / (strength + of);

/** What was seen of a mean: sum of values, how many, and the square of their spread around their own mean. */
export interface SeenMean {
	readonly of: number;
	readonly sum: number;
	readonly expected: number;
}

/** How many of one's own weigh as much as what is expected of a mean: the spread within over that between (normal means; James and Stein 1961, as Efron and Morris 1973 put it). */
export function meanStrength(seen: readonly SeenMean[], within: number): number | null {
	let [off, chance, room, several] = [0, 0, 0, 0];
	for (const { of, sum, expected } of seen) {
		if (of <= 0) continue;
		several += 1;
		// E (sum − of·expected)² = of·within + of²·between.
		off += (sum - of * expected) ** 2;
		chance += of * within;
		room += of * of;
	}
	if (several < 8 || room <= 0 || within <= 0) return null;
	const between = (off - chance) / room;
	return between <= within / strongest
		? strongest
		: Math.max(weakest, Math.min(strongest, within / between));
}

/** How strongly what is seen of one is drawn to what is expected of it, in copies. */
export interface Pull {
	readonly share: number;
	readonly mean: number;
}

/** How strongly those of a kind are drawn, by as much as they really differ; as `few` says where there are too few to tell. */
export const pullOf = (
	seen: readonly { readonly share: SeenShare; readonly mean: SeenMean }[],
	variance: number,
	few: Pull
): Pull => ({
	share: strengthOf(seen.map((s) => s.share)) ?? few.share,
	mean:
		meanStrength(
			seen.map((s) => s.mean),
			variance
		) ?? few.mean
});

/** A mean drawn to what is expected of it. */
export const drawnMean = ({ of, sum, expected }: SeenMean, strength: number): number =>
	(expected * strength + sum) / (strength + of);

export const logit = (p: number): number => Math.log(p / (1 - p));
export const odds = (x: number): number => 1 / (1 + Math.exp(-x));
/** A share that is neither none nor all, so that it has a logarithm of its odds. */
export const inside = (p: number): number => Math.min(0.999, Math.max(0.001, p));
