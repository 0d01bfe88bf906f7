import type { WayOut } from '../../../core/roster/way';
import type { TextDid } from '../../../core/talk/keyword';

/** What came back from a family: an answer by mail, or a text from a phone. */
export interface ReplyLine {
	readonly key: string;
	readonly way: WayOut;
	readonly at: number;
	/** Who, or the address or number where nobody is known by it. */
	readonly from: string;
	readonly personId: number | null;
	readonly words: string;
	/** What it answers; null where that is not known. */
	readonly dispatch: { readonly id: number; readonly subject: string } | null;
	/** Where a machine may have written it. */
	readonly doubtful: boolean;
	/** What a text asked for by itself, and was obeyed. */
	readonly command: TextDid | null;
}

/** A letter to a member of the staff: an answer passed on, a report, addresses to mend. */
export interface StaffLetter {
	readonly id: number;
	readonly subject: string;
	readonly html: string;
	readonly at: number;
	readonly dispatchId: number | null;
}

export interface RepliesView {
	readonly zone: string;
	readonly now: number;
	readonly replies: readonly ReplyLine[];
	readonly letters: readonly StaffLetter[];
}
