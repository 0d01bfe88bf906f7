import type { ComingState } from '../../../core/audience/audience';
import type { ComingHow, NotTaken } from '../../../core/talk/invitation';
import type { Slot } from '../../../core/talk/invitation-schema';

/** Where an answer stands: who comes, whether they have their places, and how many stand before them in line. */
export interface Standing {
	readonly comes: boolean;
	readonly people: number;
	/** How many of them are students; null where nobody has said. */
	readonly students: number | null;
	/** 0 where there is one time for all. */
	readonly slot: number;
	readonly seated: boolean;
	readonly before: number;
}

/** Why an answer changes nothing: what does not fit, that its time is over, that it was changed too often, or that there are not as many places for a change. */
export type NotAnswered = NotTaken | 'closed' | 'gone' | 'no-room' | 'too-often';

export type Answered =
	| { readonly ok: true; readonly standing: Standing }
	| { readonly ok: false; readonly why: NotAnswered };

/** A time to choose from, with the places that are left; null for as many as come. */
export interface SlotLeft extends Slot {
	readonly left: number | null;
}

/** An invitation as somebody who is asked sees it. */
export interface OwnInvitation {
	/** The dispatch that asked first. */
	readonly id: number;
	/** Until when it can be answered (instant, ms), and whether it still can. */
	readonly until: number;
	readonly open: boolean;
	readonly most: number;
	readonly slots: readonly SlotLeft[];
	/** Places left over all; null for as many as come. */
	readonly left: number | null;
	/** What was said in their name; null where nothing was. */
	readonly mine:
		| (Standing & {
				/** Who of theirs said it, where it was somebody else; empty else. */
				readonly by: string;
				readonly at: number;
		  })
		| null;
}

/** How many said what. */
export interface ComingCounts {
	/** Households and people who were asked, and guests from outside. */
	readonly asked: number;
	readonly guests: number;
	/** Parties with places, the people in them, and how many of those are students as far as it was said. */
	readonly comes: number;
	readonly people: number;
	readonly students: number;
	readonly adults: number;
	/** People of whom it was not said whether they are students. */
	readonly unsaidKind: number;
	readonly waits: number;
	readonly waitingPeople: number;
	readonly not: number;
	/** Of those who were asked, how many have said nothing. */
	readonly unsaid: number;
}

/** A time in Reach: who comes to it, and who waits for it. */
interface SlotCount extends SlotLeft {
	readonly people: number;
	readonly parties: number;
	readonly waiting: number;
}

/** What Reach says of an invitation. */
export interface InvitationReach {
	readonly id: number;
	readonly subject: string;
	readonly until: number;
	readonly open: boolean;
	readonly places: number | null;
	readonly left: number | null;
	readonly most: number;
	readonly counts: ComingCounts;
	readonly slots: readonly SlotCount[];
	/** The link for anybody; null where it is not open to them, or was ended. */
	readonly link: string | null;
	readonly anybody: boolean;
	/** Whether whoever looks may change it and put answers down. */
	readonly mine: boolean;
	/** By whose clock its times are said. */
	readonly zone: string;
}

/** One line of the list of who said what. */
export interface ComingLine {
	readonly key: string;
	/** The household’s people who were asked, or the guest. */
	readonly names: readonly string[];
	/** The students it is about. */
	readonly students: readonly string[];
	readonly state: ComingState;
	readonly people: number;
	readonly studentsComing: number | null;
	readonly slot: number;
	/** Its place in line, from 1; 0 where it does not wait. */
	readonly inLine: number;
	readonly at: number | null;
	readonly how: ComingHow | null;
	/** Who said it. */
	readonly by: string;
	/** A guest’s mail address. */
	readonly address: string;
}

export type Changed = { readonly ok: true } | { readonly ok: false; readonly why: string };

/** A page of the list. */
export interface ComingList {
	readonly page: number;
	readonly perPage: number;
	/** How many lines fit what was asked for. */
	readonly found: number;
	readonly lines: readonly ComingLine[];
}
