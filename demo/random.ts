/** A seeded source of draws (mulberry32, public domain): the same seed gives the same district. */
export interface Random {
	/** 0 (in) to 1 (out). */
	next(): number;
	/** Whole number, both ends in. */
	int(from: number, to: number): number;
	chance(p: number): boolean;
	pick<T>(list: readonly T[]): T;
	/** One of the keys, by weight. */
	weighted<K extends string>(weights: Readonly<Record<K, number>>): K;
	shuffle<T>(list: readonly T[]): T[];
}

export function random(seed: number): Random {
	let state = seed >>> 0;
	const next = () => {
		state = (state + 0x6d2b79f5) >>> 0;
		let t = state;
		t = Math.imul(t ^ (t >>> 15), t | 1);
		t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
		return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32;
	};
	const int = (from: number, to: number) => from + Math.floor(next() * (to - from + 1));
	return {
		next,
		int,
		chance: (p) => next() < p,
		pick: (list) => list[int(0, list.length - 1)]!,
		weighted(weights) {
			const entries = Object.entries(weights) as [keyof typeof weights & string, number][];
			let left = next() * entries.reduce((sum, [, w]) => sum + w, 0);
			for (const [key, weight] of entries) {
				left -= weight;
				if (left < 0) return key as never;
			}
			return entries.at(-1)![0] as never;
		},
		shuffle(list) {
			const copy = [...list];
			for (let i = copy.length - 1; i > 0; i -= 1) {
				const j = int(0, i);
				[copy[i], copy[j]] = [copy[j]!, copy[i]!];
			}
			return copy;
		}
	};
}
