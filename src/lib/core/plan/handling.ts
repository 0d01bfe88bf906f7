import type { DispatchKind } from '../roster/types';
import type { Way } from '../roster/way';

/** The ways one person is written to by, chosen by hand in place of the dispatch's own. */
export interface WaysByHand {
	readonly personId: number;
	readonly ways: readonly Way[];
	/** Who did it, and when (instant, ms). */
	readonly by: string;
	readonly at: number;
}

/** How the copies of a dispatch are made. */
export interface Handling {
	readonly ways: readonly Way[];
	readonly kind: DispatchKind;
	/** One copy for each student instead of one that speaks of several. */
	readonly perStudent: boolean;
	/** A copy for each person, also where two read at one address. */
	readonly perPerson: boolean;
	/** Passes over what people have declined by kind; never over an opt-out. A right of its own. */
	readonly urgent: boolean;
	readonly waysByHand: readonly WaysByHand[];
	/** One way for each person: of those that work the one tried least in the matter that is followed up. */
	readonly leastTried: boolean;
	/** The turn of each way: 0 goes first, a later one is used only for those who have not read by its time. */
	readonly steps: Readonly<Record<Way, number>>;
	/** Staff who get one copy for information, the sender first. */
	readonly informed: readonly number[];
}

/** All ways at the same time. */
const atOnce: Handling['steps'] = { email: 0, text: 0, inbox: 0 };

/** The usual handling: one person, one copy; one address, one copy. */
export const byWays = (chosen: readonly Way[], over: Partial<Handling> = {}): Handling => ({
	ways: chosen,
	kind: 'message',
	perStudent: false,
	perPerson: false,
	urgent: false,
	waysByHand: [],
	leastTried: false,
	steps: atOnce,
	informed: [],
	...over
});
