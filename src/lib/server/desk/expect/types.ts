import type { Turn } from '../../../core/plan/turns';
import type { Way } from '../../../core/roster/way';
import type { CoverageUnit } from '../../../core/track/coverage';
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

/** What is to be expected by an instant (ms); without numbers where too little is known of some ways. */
export type ExpectLine =
	| { readonly by: number; readonly unknown: readonly Way[] }
	| {
			readonly by: number;
			readonly of: CoverageUnit;
			readonly students: number;
			readonly expected: number;
			readonly low: number;
			readonly high: number;
	  };

/** A choice of ways, and what is to be expected of it by the time that is wanted. */
export interface ComparedWays {
	readonly ways: readonly Way[];
	readonly turns: readonly Turn[];
	/** "email first; text to those who have not read by 5:00 pm". */
	readonly words: string;
	readonly expected: number;
	readonly low: number;
	readonly high: number;
	/** Copies that leave on average, and those that are planned. */
	readonly copies: number;
	readonly planned: number;
	/** Of its texts, on average. */
	readonly cents: number;
	/** Messages to homes. */
	readonly load: number;
	/** Families that are left to be told by phone. */
	readonly calls: number;
	/** Whether it is how the sheet stands, and the cheapest that is enough. */
	readonly own: boolean;
	readonly cheapest: boolean;
}

/** Whom even the best will hardly reach: how many, and the first of them. */
export interface HardlyReached {
	readonly students: number;
	readonly lines: readonly {
		readonly studentId: number;
		readonly name: string;
		readonly section: string;
		readonly why: string;
		/** 0 to 1. */
		readonly chance: number;
	}[];
}

/** What is to be expected of a sheet. Instants in ms. */
export type WhatToExpect = {
	readonly by: number;
	readonly leavesAt: number;
	readonly now: number;
	/** Of the clock that the sheet’s times are meant by. */
	readonly zone: string;
	/** The share that is wanted, in hundredths. */
	readonly share: number;
} & (
	| { readonly is: 'nobody' }
	/** Too little has been read by these ways. */
	| { readonly is: 'unknown'; readonly ways: readonly Way[] }
	| {
			readonly is: 'known';
			readonly of: CoverageUnit;
			readonly students: number;
			/** How many of them are wanted. */
			readonly enough: number;
			readonly ownIsEnough: boolean;
			/** Who gets a copy by the sheet’s own ways. */
			readonly people: number;
			/** When it was learned, from how many people and copies. */
			readonly learned: { readonly at: number; readonly people: number; readonly copies: number };
			readonly rows: readonly ComparedWays[];
			/** By the sheet’s own ways, and by the cheapest that is enough where that is another. */
			readonly curve: readonly CurvePoint[];
			readonly other: readonly CurvePoint[] | null;
			/** When the sheet’s later turns begin. */
			readonly turns: readonly number[];
			/** By the cheapest that is enough, else by the sheet’s own ways. */
			readonly hardly: HardlyReached;
	  }
);

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
