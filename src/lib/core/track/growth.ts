import { rankIn } from '../sorted-numbers';

/** How many had read so long after a dispatch left. */
interface GrowthPoint {
	/** Minutes after the first copy left. */
	readonly minutes: number;
	readonly count: number;
}

/** How reading grew: a curve, and a few marks of it for a table. */
export interface Growth {
	/** Points where it rises, thinned to what a chart can show; it begins at 0 and ends at `until`. */
	readonly curve: readonly GrowthPoint[];
	/** At the usual marks that have passed, and now. */
	readonly marks: readonly GrowthPoint[];
	/** Minutes until a quarter, half and three quarters of all had read; null where it has not come to that. */
	readonly quarter: number | null;
	readonly half: number | null;
	readonly threeQuarters: number | null;
}

const hour = 60;
const day = 24 * hour;
/** Minutes at which reading is looked at. */
const usualMarks = [5, 15, 30, hour, 2 * hour, 4 * hour, 8 * hour, day, 2 * day, 3 * day, 7 * day];
const mostPoints = 120;

/**
 * How reading grew from an instant to another, ms. `times` are the instants at which each of `all` who
 * has read came to that, the first first; what lies after `until` has not happened.
 */
export function growthOf(
	times: readonly number[],
	all: number,
	from: number,
	until: number
): Growth {
	const read = rankIn(times, until);
	const minutes = (t: number) => Math.max(0, (t - from) / 60_000);
	const end = Math.max(0, minutes(until));
	const reached = (share: number): number | null => {
		const nth = Math.ceil(share * all);
		return all > 0 && nth <= read ? minutes(times[Math.max(0, nth - 1)]!) : null;
	};
	const step = Math.max(1, Math.ceil(read / mostPoints));
	const curve: GrowthPoint[] = [{ minutes: 0, count: 0 }];
	for (let i = step - 1; i < read; i += step) {
		curve.push({ minutes: minutes(times[i]!), count: i + 1 });
	}
	curve.push({ minutes: end, count: read });
	return {
		curve,
		marks: [
			...usualMarks
				.filter((m) => m < end)
				.map((m) => ({ minutes: m, count: rankIn(times, from + m * 60_000) })),
			{ minutes: end, count: read }
		],
		quarter: reached(0.25),
		half: reached(0.5),
		threeQuarters: reached(0.75)
	};
}
