import jStat from 'jstat';

/** Of how many, how many it is so of. */
export interface Part {
	readonly of: number;
	readonly count: number;
}

/** Chances that differ by less than this part of themselves are the same: the last figures of a sum of many are not to be trusted. */
const same = 1 + 1e-7;

/**
 * How likely it is by chance alone that two parts of the same whole lie as far apart as they do, or further: Fisher's exact test
 * (R. A. Fisher, The Design of Experiments, 1935), two-sided by summing all tables that are no likelier than the one that was seen.
 */
export function chanceOfDifference(a: Part, b: Part): number {
	const all = a.of + b.of;
	const so = a.count + b.count;
	const lowest = Math.max(0, a.of - (all - so));
	const highest = Math.min(a.of, so);
	const logOf = (k: number): number =>
		jStat.combinationln(so, k) +
		jStat.combinationln(all - so, a.of - k) -
		jStat.combinationln(all, a.of);
	const seen = Math.exp(logOf(a.count)) * same;
	let sum = 0;
	for (let k = lowest; k <= highest; k += 1) {
		const chance = Math.exp(logOf(k));
		if (chance <= seen) sum += chance;
	}
	return Math.min(1, sum);
}

/** Several chances corrected for that many were looked at (S. Holm, Scandinavian Journal of Statistics 6, 1979, 65–70), in the order they came in. */
export function corrected(chances: readonly number[]): number[] {
	const order = chances.map((_, i) => i).sort((a, b) => chances[a]! - chances[b]!);
	const result = chances.map(() => 1);
	let before = 0;
	order.forEach((i, rank) => {
		before = Math.max(before, Math.min(1, chances[i]! * (chances.length - rank)));
		result[i] = before;
	});
	return result;
}

/** Less likely than this by chance, a difference is said. */
const sayBelow = 0.05;

/**
 * Which groups differ from all the others of their set together by more than chance would make them; each with whether it is
 * more or fewer. Sets are ways of parting the same whole, by school and by language: corrected for all that are compared.
 */
export function standingOut<T extends Part>(
	sets: readonly (readonly T[])[]
): { readonly group: T; readonly more: boolean; readonly chance: number }[] {
	const compared = sets
		.filter((groups) => groups.length > 1)
		.flatMap((groups) => {
			const of = groups.reduce((sum, g) => sum + g.of, 0);
			const count = groups.reduce((sum, g) => sum + g.count, 0);
			return groups.map((group) => ({
				group,
				others: { of: of - group.of, count: count - group.count }
			}));
		});
	const chances = corrected(compared.map((c) => chanceOfDifference(c.group, c.others)));
	return compared.flatMap(({ group, others }, i) => {
		if (chances[i]! >= sayBelow) return [];
		const more = group.count / group.of > others.count / others.of;
		return [{ group, chance: chances[i]!, more }];
	});
}
