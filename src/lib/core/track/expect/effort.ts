import { ways as allWays, type Way } from '../../roster/way';
import type { CopyAhead } from './families';

/** What a handling costs on average: copies of a later turn count by the chance that they leave. */
export interface Effort {
	/** Parts of texts; what a provider asks for is so many times the price of one. */
	readonly parts: number;
	readonly copies: number;
	/** Messages to homes, as the family load counts them: one a home and day. */
	readonly load: number;
}

/** What is asked of copies: of how many parts a text is, the local day of an instant (ms), the homes of a person. */
interface Asked {
	readonly partsOf: (index: number) => number;
	readonly dayOf: (at: number) => string;
	readonly homesOf: (personId: number) => readonly number[];
}

/** What copies cost, by the chance of each that it leaves. */
export function effortOf(
	copies: readonly CopyAhead[],
	leaves: readonly number[],
	{ partsOf, dayOf, homesOf }: Asked
): Effort {
	let parts = 0;
	let sum = 0;
	const days = new Map<string, Map<number, number>>();
	copies.forEach((copy, i) => {
		const leaving = leaves[i]!;
		sum += leaving;
		if (copy.way === 'text') parts += leaving * partsOf(i);
		const day = dayOf(copy.at);
		let homes = days.get(day);
		if (!homes) days.set(day, (homes = new Map()));
		for (const reader of copy.readers)
			for (const home of homesOf(reader))
				if ((homes.get(home) ?? 0) < leaving) homes.set(home, leaving);
	});
	let load = 0;
	for (const homes of days.values()) for (const leaving of homes.values()) load += leaving;
	return { parts, copies: sum, load };
}

/** Which of two costs less: by money, then by copies, then by load. What differs by less than half of one is the same. */
export function cheaper(a: Effort, b: Effort): number {
	const parted = (x: number, y: number) => (Math.abs(x - y) < 0.5 ? 0 : x - y);
	return parted(a.parts, b.parts) || parted(a.copies, b.copies) || parted(a.load, b.load);
}

/** Which ways are used, and which of them wait for the others. */
export interface Together {
	readonly first: readonly Way[];
	readonly then: readonly Way[];
}

/** Every way to use some ways: all subsets at once, and each parted in those that go first and those that wait. */
export function togethers(of: readonly Way[]): Together[] {
	const ways = allWays.filter((w) => of.includes(w));
	const made: Together[] = [];
	// Each way is left out, goes first, or waits: a number of as many digits of three.
	for (let n = 1; n < 3 ** ways.length; n += 1) {
		const part = (digit: number) => ways.filter((_, i) => Math.floor(n / 3 ** i) % 3 === digit);
		if (part(1).length > 0) made.push({ first: part(1), then: part(2) });
	}
	return made;
}
