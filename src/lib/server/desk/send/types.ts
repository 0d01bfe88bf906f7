import type { Held } from '../../db/mark';
import type { Check } from '../../../core/plan/check';
import type { Tally } from '../../../core/plan/tally';

/** A dispatch of which copies are due while the database is held. */
export interface HeldDispatch {
	readonly id: number;
	readonly subject: string;
	readonly sender: string;
	/** When it was to leave (instant, ms). */
	readonly leavesAt: number;
	readonly copies: number;
}

/** A database that was put back or copied, as the page about the courier shows it. */
export interface PutBack extends Held {
	/** Copies that are due, and would leave at once. */
	readonly due: number;
	readonly dispatches: readonly HeldDispatch[];
}

export type DispatchMoved =
	| { readonly ok: true; readonly at: number }
	/** `changed`: somebody else has changed it since it was looked at. */
	| { readonly ok: false; readonly why: string; readonly changed: boolean };

/** What became of a sheet that is to wait for a marker. */
export type StandingPut =
	| { readonly ok: true; readonly standingId: number }
	/** Something blocks; nothing was written. */
	| { readonly ok: false; readonly checks: readonly Check[]; readonly tally: Tally };

export type Scheduled =
	| {
			readonly ok: true;
			readonly dispatchId: number;
			/** The round it has become, where it has several dates. */
			readonly roundId: number | null;
	  }
	/** Something blocks; nothing was written. */
	| { readonly ok: false; readonly checks: readonly Check[]; readonly tally: Tally };
