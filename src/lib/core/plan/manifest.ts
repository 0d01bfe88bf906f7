import type { Because, LineCount, OutByLine, TakenOut } from '../audience/resolved';
import type { Reason } from '../audience/reasons';
import type { Way } from '../roster/way';

/** One copy that will be sent: to one person, by one way, at one address. */
export interface PlannedCopy {
	readonly personId: number;
	readonly way: Way;
	/** Email address or E.164 number; null for the inbox. */
	readonly address: string | null;
	/** Students this copy speaks of, each once. */
	readonly studentIds: readonly number[];
	/** Others in the audience who read at the same address and so get no second copy there. */
	readonly alsoFor: readonly number[];
	/** 0 for what leaves first, else the turn it waits for. */
	readonly step: number;
	/** Whether its reader has declined this kind by this way, and it goes because it is urgent. */
	readonly overWish: boolean;
}

/** A chosen way that one person cannot be reached by, while another way may work. */
export interface NotByWay {
	readonly personId: number;
	readonly way: Way;
	readonly reason: Reason;
}

/**
 * A person in the audience who gets no copy that speaks of these students. A person has a row for
 * each set of reasons; without students where they were meant for themselves.
 */
export interface LeftOut {
	readonly personId: number;
	readonly studentIds: readonly number[];
	readonly reasons: readonly Reason[];
	/** Whether they do get a copy, which speaks of other students. */
	readonly reached: boolean;
}

export interface Recipient {
	readonly personId: number;
	readonly because: readonly Because[];
}

/**
 * The manifest: what an audience comes to. The tally, the sending and the later coverage are all
 * counted from this one value.
 */
export interface Manifest {
	readonly students: readonly number[];
	/** Students of the picks who were taken out again; they are not among `students`. */
	readonly takenOut: readonly TakenOut[];
	/** People a line took out for students who are still in. */
	readonly outByLine: readonly OutByLine[];
	readonly sectionOf: ReadonlyMap<number, number | null>;
	readonly byLine: readonly LineCount[];
	/** People who get at least one copy, or read one at an address they share. */
	readonly recipients: readonly Recipient[];
	/** Staff who get a copy for information only. */
	readonly informed: readonly number[];
	readonly copies: readonly PlannedCopy[];
	readonly notByWay: readonly NotByWay[];
	readonly leftOut: readonly LeftOut[];
}
