import type { CopyAhead } from './families';

/** Minutes after it leaves at which a curve is worked out. */
const usual = [0, 10, 30, 60, 120, 240, 480, 720, 1440, 2160, 2880, 4320];
const minuteMs = 60_000;
/** Turns of which the curve shows the bend. */
const mostTurns = 4;

/**
 * The instants (ms) at which a curve is worked out, from when it leaves: the usual ones up to the time that is asked and half as
 * long again, that time itself, and where a later turn begins.
 */
export function curveTimes(leavesAt: number, by: number, copies: readonly CopyAhead[]): number[] {
	const end = Math.min(leavesAt + usual.at(-1)! * minuteMs, by + (by - leavesAt) / 2);
	const turns = [...new Set(copies.filter((c) => c.step > 0).map((c) => c.at))]
		.sort((a, b) => a - b)
		.slice(0, mostTurns);
	const bends = turns.flatMap((at) => [
		at,
		at + 20 * minuteMs,
		at + 60 * minuteMs,
		at + 180 * minuteMs
	]);
	const times = [...usual.map((m) => leavesAt + m * minuteMs), ...bends, by, end];
	return [...new Set(times)]
		.filter((at) => at >= leavesAt && at <= Math.max(end, by))
		.sort((a, b) => a - b);
}

/** A point of a band: minutes after it leaves. */
export interface BandPoint {
	readonly x: number;
	readonly low: number;
	readonly high: number;
}

/** A band up to an end, where it stops between two points: there it is as far along as it would be on a straight line. */
export function withEnd(band: readonly BandPoint[], end: number): BandPoint[] {
	const within = band.filter((p) => p.x <= end);
	const last = within.at(-1);
	const next = band.find((p) => p.x > end);
	if (!last || !next || last.x === end) return within;
	const part = (end - last.x) / (next.x - last.x);
	const between = (from: number, to: number) => from + part * (to - from);
	return [
		...within,
		{ x: end, low: between(last.low, next.low), high: between(last.high, next.high) }
	];
}
