import { stretchWords } from '../time/stretch';

/** What one reader got of one dispatch of the past, by whatever ways: the local hour it left in, and how long until it was read by any of them. */
export interface PastReading {
	/** 0 to 23, in the district's zone. */
	readonly hour: number;
	/** Minutes from leaving to reading; null where it was not read. */
	readonly minutes: number | null;
	/** Minutes that this reader usually takes, by habit. */
	readonly usual: number;
	readonly dispatchId: number;
}

/** The hour in which was read soonest, with how sure that is. */
export interface GoodTime {
	readonly hour: number;
	/** Minutes within which a quarter, half and three quarters had read. */
	readonly quarter: number;
	readonly half: number;
	readonly threeQuarters: number;
	/** Letters that this hour is known by, read or not: one for each reader and dispatch. */
	readonly letters: number;
}

/** Fewer of one hour, or of fewer dispatches, say nothing about the hour. */
const least = { letters: 40, dispatches: 3 } as const;

interface Spread {
	readonly quarter: number;
	readonly half: number;
	readonly threeQuarters: number;
	/** Half the width of the notch: medians whose notches do not meet differ (McGill, Tukey, Larsen 1978: 1.57 times the spread over the root of the number). */
	readonly notch: number;
}

/** Quartiles with the unread as never; null where fewer than three quarters were read. */
function spreadOf(minutes: readonly (number | null)[]): Spread | null {
	const sorted = minutes.map((m) => m ?? Infinity).sort((a, b) => a - b);
	const at = (p: number) => sorted[Math.max(0, Math.ceil(p * sorted.length) - 1)]!;
	const [quarter, half, threeQuarters] = [at(0.25), at(0.5), at(0.75)];
	if (!Number.isFinite(threeQuarters)) return null;
	return {
		quarter,
		half,
		threeQuarters,
		notch: (1.57 * (threeQuarters - quarter)) / Math.sqrt(sorted.length)
	};
}

/** How long a reading took against the reader's own habit: 1 is as usual. */
const pace = ({ minutes, usual }: PastReading): number | null =>
	minutes === null ? null : minutes / Math.max(1, usual);

/**
 * The hour in which people read sooner than they usually do, or null where too little is known or no
 * hour stands out: the hour's median must lie below that of all others by more than chance would
 * have it. Each reading is held against its reader's own habit, so that an hour at which quick
 * readers happened to be written to does not pass for a good one.
 */
export function goodTime(readings: readonly PastReading[]): GoodTime | null {
	const hours = new Map<number, PastReading[]>();
	for (const r of readings) {
		const list = hours.get(r.hour);
		if (list) list.push(r);
		else hours.set(r.hour, [r]);
	}
	let best: { hour: number; list: PastReading[]; spread: Spread } | null = null;
	for (const [hour, list] of hours) {
		if (list.length < least.letters) continue;
		if (new Set(list.map((r) => r.dispatchId)).size < least.dispatches) continue;
		const spread = spreadOf(list.map(pace));
		if (spread && (!best || spread.half < best.spread.half)) best = { hour, list, spread };
	}
	if (!best) return null;
	const { hour, list, spread } = best;
	const rest = readings.filter((r) => r.hour !== hour);
	if (rest.length < least.letters) return null;
	const others = spreadOf(rest.map(pace));
	// Where the others are mostly not read at all, this hour stands out by itself.
	if (others && spread.half + spread.notch >= others.half - others.notch) return null;
	const { quarter, half, threeQuarters } = spreadOf(list.map((r) => r.minutes))!;
	return { hour, quarter, half, threeQuarters, letters: list.length };
}

const clock = (hour: number): string =>
	`${hour % 12 === 0 ? 12 : hour % 12} ${hour % 24 < 12 ? 'am' : 'pm'}`;

/** A good time as a hint. */
export const goodTimeWords = ({ hour, quarter, half, threeQuarters, letters }: GoodTime): string =>
	`A good time: what left from ${clock(hour)} to ${clock(hour + 1)} such people read sooner than they usually do, half within ${stretchWords(half)} (a quarter ${stretchWords(quarter)}, three quarters ${stretchWords(threeQuarters)}; ${letters} letters).`;
