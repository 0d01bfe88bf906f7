import type { Way } from '../../roster/way';

/** A copy of the past that is old enough to tell. */
export interface PastCopy {
	readonly personId: number;
	readonly way: Way;
	readonly dispatchId: number;
	/** When it left: instant (ms), hour (0 to 23) and day (0 Monday to 6) by the clock of its school. */
	readonly leftAt: number;
	readonly hour: number;
	readonly weekday: number;
	/** Minutes until it was read; null where it was not within {@link tellMinutes}. */
	readonly minutes: number | null;
	/** 0 for what left first, else the turn it waited for: that its reader had read nothing by then is known of it. */
	readonly step: number;
}

/** What is known of a reader beside what they read. */
export interface Reader {
	/** Null for whoever lives in none that is known. */
	readonly householdId: number | null;
	readonly schoolId: number | null;
	readonly language: string;
}

/** Who somebody is. */
export type ReaderOf = (personId: number) => Reader;

/** When a copy leaves, by the clock of its school. */
export type Leaving = Pick<PastCopy, 'hour' | 'weekday'>;

/** What somebody does, or is to be expected to: the share of copies that is read, and the middle of the logarithms of minutes until then. */
export interface Habit {
	readonly share: number;
	readonly middle: number;
}

/** So long after a copy has left it counts as read or not read; what comes later says nothing about habit. */
export const tellDays = 3;
export const tellMinutes = tellDays * 1440;

export const dayMs = 86_400_000;
/** The age at which a copy weighs half in what many do, days. */
const manyHalfLife = 240;

/** A copy with how much it counts, and the logarithm of its minutes. */
export interface Weighed extends PastCopy {
	readonly weight: number;
	readonly log: number | null;
}

export const weighed = (copies: readonly PastCopy[], now: number): Weighed[] =>
	// Each field by name: there are millions, and a spread costs several times as much.
	copies.map(({ personId, way, dispatchId, leftAt, hour, weekday, minutes, step }) => ({
		personId,
		way,
		dispatchId,
		leftAt,
		hour,
		weekday,
		minutes,
		step,
		weight: 2 ** (-Math.max(0, now - leftAt) / (manyHalfLife * dayMs)),
		log: minutes === null ? null : Math.log(Math.max(1, minutes))
	}));

/** Copies added up, each by its weight: how many, how many of them were read, the logarithms of their minutes and the squares of these. */
export class Sums {
	of = 0;
	read = 0;
	logs = 0;
	squares = 0;

	add({ weight, log }: Weighed): this {
		this.of += weight;
		if (log === null) return this;
		this.read += weight;
		this.logs += weight * log;
		this.squares += weight * log * log;
		return this;
	}
}

/** Copies added up by what they have in common. */
export function sumsBy<K>(copies: readonly Weighed[], of: (c: Weighed) => K): Map<K, Sums> {
	const by = new Map<K, Sums>();
	for (const c of copies) {
		const key = of(c);
		let sums = by.get(key);
		if (!sums) by.set(key, (sums = new Sums()));
		sums.add(c);
	}
	return by;
}

/** A map with other values. */
export const mapped = <K, V, W>(of: ReadonlyMap<K, V>, make: (value: V) => W): Map<K, W> =>
	new Map([...of].map(([key, value]) => [key, make(value)]));
