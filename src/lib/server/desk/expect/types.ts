import type { Share } from '../../../core/track/share';

/** How many are to be expected at an instant (ms), with the band of nine of ten cases. */
export interface CurvePoint {
	readonly at: number;
	readonly expected: number;
	readonly low: number;
	readonly high: number;
}

/** What was to be expected of a dispatch, as it was said then. Instants in ms. */
export interface KeptForecast {
	readonly madeAt: number;
	readonly by: number;
	readonly students: number;
	readonly expected: number;
	readonly low: number;
	readonly high: number;
	readonly curve: readonly CurvePoint[];
	/** How many were covered by then; null while that time has not come. */
	readonly covered: number | null;
}

/** A part of the students of all judged forecasts: how many were to be expected, how many came, and how far off that is of one (positive: more came). */
export interface JudgedGroup {
	readonly name: string;
	readonly of: number;
	readonly expected: number;
	readonly came: number;
	readonly off: number;
}

/** How good forecasts were. */
export interface HowGood {
	/** How many have been judged, how many of them came out within their bands, and of how many students in all. */
	readonly forecasts: number;
	readonly within: Share;
	readonly students: number;
	/** By how many students a forecast was off, on average. */
	readonly off: number;
	/** Mean squares between what was said of a student and what came: ours, everybody’s average until then, the last dispatch’s share. */
	readonly brier: { readonly own: number; readonly usual: number; readonly last: number };
	/** By tenths of the chance that was said; nothing where none was. */
	readonly tenths: readonly {
		readonly of: number;
		readonly came: number;
		readonly said: number | null;
		readonly share: Share | null;
	}[];
	readonly schools: readonly JudgedGroup[];
	/** By the tags of their languages, with a comma between. */
	readonly languages: readonly JudgedGroup[];
	/** The newest, one by one. Instants in ms. */
	readonly lines: readonly {
		readonly dispatchId: number;
		readonly subject: string;
		readonly leavesAt: number;
		readonly byAt: number;
		readonly students: number;
		readonly expected: number;
		readonly low: number;
		readonly high: number;
		readonly covered: number;
	}[];
}
