import { stretchWords } from '../time/stretch';

/** One copy of the past: the local hour it left in, and how long until its reader read it. */
export interface PastReading {
	/** 0 to 23, in the district's zone. */
	readonly hour: number;
	/** Minutes from leaving to reading; null where it was not read. */
	readonly minutes: number | null;
	readonly dispatchId: number;
}

/** The hour in which copies were read soonest, with how sure that is. */
export interface GoodTime {
	readonly hour: number;
	/** Minutes within which a quarter, half and three quarters of the copies had been read. */
	readonly quarter: number;
	readonly half: number;
	readonly threeQuarters: number;
	/** Copies that left in this hour, read or not. */
	readonly copies: number;
}

/** Fewer copies of one hour, or of fewer dispatches, say nothing about the hour. */
const least = { copies: 40, dispatches: 3 } as const;

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

/**
 * The hour in which past copies were read soonest, or null where too little is known or no hour
 * stands out: the hour's median must lie below that of all others by more than chance would have it.
 */
export function goodTime(readings: readonly PastReading[]): GoodTime | null {
	const hours = new Map<number, PastReading[]>();
	for (const r of readings) {
		const list = hours.get(r.hour);
		if (list) list.push(r);
		else hours.set(r.hour, [r]);
	}
	let best: (GoodTime & { notch: number }) | null = null;
	for (const [hour, list] of hours) {
		if (list.length < least.copies) continue;
		if (new Set(list.map((r) => r.dispatchId)).size < least.dispatches) continue;
		const spread = spreadOf(list.map((r) => r.minutes));
		if (spread && (!best || spread.half < best.half))
			best = { hour, copies: list.length, ...spread };
	}
	if (!best) return null;
	const rest = readings.filter((r) => r.hour !== best.hour);
	if (rest.length < least.copies) return null;
	const others = spreadOf(rest.map((r) => r.minutes));
	// Where the others are mostly not read at all, this hour stands out by itself.
	if (others && best.half + best.notch >= others.half - others.notch) return null;
	const { hour, quarter, half, threeQuarters, copies } = best;
	return { hour, quarter, half, threeQuarters, copies };
}

const clock = (hour: number): string =>
	`${hour % 12 === 0 ? 12 : hour % 12} ${hour % 24 < 12 ? 'am' : 'pm'}`;

/** A good time as a hint. */
export const goodTimeWords = ({ hour, quarter, half, threeQuarters, copies }: GoodTime): string =>
	`A good time: what left from ${clock(hour)} to ${clock(hour + 1)} was read soonest by such people, half within ${stretchWords(half)} (a quarter ${stretchWords(quarter)}, three quarters ${stretchWords(threeQuarters)}; ${copies} copies).`;
