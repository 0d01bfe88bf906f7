/** A share of a whole, with how far chance alone could move it. */
export interface Share {
	readonly count: number;
	readonly of: number;
	/** Bounds from 0 to 1 between which the share lies with 95 % confidence, were these some of many alike. */
	readonly low: number;
	readonly high: number;
	/** Whether there are enough to be said in percent: of a few, one more or less says another number. */
	readonly enough: boolean;
}

/** 97.5 % point of the normal distribution. */
const z = 1.959963984540054;
/** Fewer than this are said as counts only (common practice in school statistics: ten). */
const fewest = 10;

/** A share with its score interval (E. B. Wilson, 1927), which holds for small numbers and for none or all. */
export function shareOf(count: number, of: number): Share {
	if (of === 0) return { count, of, low: 0, high: 1, enough: false };
	const p = count / of;
	const middle = (p + (z * z) / (2 * of)) / (1 + (z * z) / of);
	const half = (z / (1 + (z * z) / of)) * Math.sqrt((p * (1 - p)) / of + (z * z) / (4 * of * of));
	return {
		count,
		of,
		low: Math.max(0, middle - half),
		high: Math.min(1, middle + half),
		enough: of >= fewest
	};
}

/** "82 %", or nothing where there are too few to say it. */
export const percentWords = ({ count, of, enough }: Share): string =>
	enough ? `${Math.round((100 * count) / of)} %` : '';
