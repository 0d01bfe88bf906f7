import type { DeliveryState, Strength, Judged } from '../../../core/track/evidence';
import type { StudentLeftKind } from '../../../core/plan/students-left';
import type { Way } from '../../../core/roster/way';

/** A person who got no copy of a dispatch, or none that speaks of these students. */
export interface LeftOutLine {
	/** Number of the row: a person has one for each set of reasons. */
	readonly id: number;
	readonly personId: number;
	readonly name: string;
	/** Students they would have been written to for, as a phrase. */
	readonly students: string;
	readonly why: string;
	/** Whether they got a copy for other students. */
	readonly reached: boolean;
}

/** One copy with all that is known of it. */
export interface DeliveryLine {
	readonly id: number;
	readonly dispatchId: number;
	/** Students this copy speaks of, as a phrase. */
	readonly students: string;
	readonly person: string;
	readonly personId: number;
	readonly relation: string;
	readonly way: Way;
	/** As people read it; null where there is none. */
	readonly address: string | null;
	/** Others who read at this address. */
	readonly alsoFor: string;
	readonly state: DeliveryState;
	readonly strength: Strength;
	/** 0 for what leaves first, then the turn it waits for. */
	readonly step: number;
	readonly dueAt: number;
	readonly evidence: readonly Judged[];
	/** Answers that came to this copy. */
	readonly answers: readonly {
		readonly id: number;
		/** In which it stands. */
		readonly conversationId: number;
		readonly at: number;
		readonly from: string;
		readonly text: string;
		/** Why it may be a machine's, in words; null where it counts as a person's. */
		readonly doubt: string | null;
	}[];
	/** What came back by mail about it, as it came. */
	readonly returned: readonly {
		readonly at: number;
		readonly words: string;
		readonly machine: string;
	}[];
}

/** A student of whom no copy speaks, in words. */
export interface StudentLeftLine {
	readonly studentId: number;
	readonly kind: StudentLeftKind;
	readonly name: string;
	readonly section: string;
	readonly why: string;
}

/** Who asked for a picture or a link, as far as a request shows. */
export interface Visitor {
	readonly method: string;
	readonly agent: string;
	readonly purpose: string;
	/** Hash of address and program; the address itself is not kept. */
	readonly key: string;
}
