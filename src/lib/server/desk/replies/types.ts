import type { Way } from '../../../core/roster/way';
import type { Likeness } from '../../../core/talk/alike-words';
import type { ConversationState } from '../../../core/talk/conversation';
import type { Doubt } from '../../../core/track/auto-answer';
import type { DeliveryState, Strength } from '../../../core/track/evidence';
import type { ConversationAct } from '../../db/models/talk';

/** How long an answer of ours can be called back before it leaves, seconds. */
export const holdSeconds = 30;

/** Which conversations are looked at: by how they stand, or those that only a machine may have written in. */
export type Shelf = ConversationState | 'doubtful';

/** A file that came with an answer. */
export interface AnswerFileLine {
	readonly id: number;
	readonly name: string;
	readonly bytes: number;
	/** Whether it is shown where it stands. */
	readonly picture: boolean;
	readonly width: number | null;
	readonly height: number | null;
	/** Why it was not kept; null where it was. */
	readonly why: string | null;
}

/** One conversation as a slip under what it answers. */
export interface Slip {
	readonly id: number;
	readonly personId: number | null;
	/** Who; the number of a phone that nobody has on file. */
	readonly who: string;
	/** "mother of Tomás"; empty where nobody is known. */
	readonly relation: string;
	/** BCP 47 tag of the language they read, where it is not English. */
	readonly language: string | null;
	readonly way: Way;
	/** What they wrote last, its beginning. */
	readonly words: string;
	/** A draft of it by the translator. */
	readonly translated: string | null;
	readonly files: number;
	readonly pictures: number;
	/** Since when it waits; when it was last written in where it does not. */
	readonly at: number;
	readonly asideUntil: number | null;
	readonly unread: boolean;
	/** Whether it came from an address that is not on file for them. */
	readonly elsewhere: string | null;
	readonly doubt: Doubt | null;
	/** Colleagues it was passed on to. */
	readonly guests: readonly string[];
}

/** Several that say the same, as one line. */
export interface AlikeLine {
	readonly likeness: Likeness;
	readonly ids: readonly number[];
	/** How some of them say it, each once. */
	readonly samples: readonly string[];
}

/** What conversations are about: a dispatch, what families began, numbers that nobody has. */
export interface TalkHead {
	readonly key: string;
	readonly kind: 'dispatch' | 'begun' | 'numbers';
	readonly dispatchId: number | null;
	/** Whether Reach opens it for the user: an office sees what its families answer also to what is not its own. */
	readonly inReach: boolean;
	readonly subject: string;
	/** Who sent it; null where it is the user. */
	readonly sender: string | null;
	readonly leftAt: number | null;
	readonly ways: readonly Way[];
	readonly announcement: boolean;
	readonly people: number;
	readonly answered: number;
	readonly waiting: number;
	readonly slips: readonly Slip[];
	readonly alike: readonly AlikeLine[];
}

export interface ShelfCounts {
	readonly waiting: number;
	readonly overDay: number;
	readonly oldest: number | null;
	readonly unread: number;
	readonly aside: number;
	readonly asideNext: number | null;
	/** Counted up to a thousand. */
	readonly settled: number;
	readonly moreSettled: boolean;
	readonly doubtful: number;
	readonly sections: readonly { readonly id: number; readonly name: string; readonly n: number }[];
	/** In how many other sections something waits. */
	readonly moreSections: number;
	readonly ways: Readonly<Record<Way, number>>;
}

/** When somebody is away, and what whoever writes to them meanwhile is told. */
export interface AwayNote {
	readonly id: number;
	readonly startsAt: number;
	readonly endsAt: number;
	readonly words: string;
	/** How many people were told so far. */
	readonly told: number;
}

/** A letter to a member of the staff: a report, addresses to mend. */
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
	readonly shelf: Shelf;
	readonly counts: ShelfCounts;
	readonly heads: readonly TalkHead[];
	/** Whether there are more than are shown. */
	readonly next: number | null;
	readonly letters: readonly StaffLetter[];
	readonly away: AwayNote | null;
}

/** A line of a conversation: what the family wrote, what we did, or what was done to it. */
export type TalkLine =
	| {
			readonly kind: 'family';
			readonly id: number;
			readonly at: number;
			readonly way: Way;
			readonly who: string;
			readonly words: string;
			readonly whole: string;
			readonly elsewhere: string | null;
			readonly doubt: Doubt | null;
			readonly translated: string | null;
			readonly files: readonly AnswerFileLine[];
			/** Other dispatches that went to the same number and may be meant. */
			readonly orAbout: readonly { readonly dispatchId: number; readonly subject: string }[];
	  }
	| {
			readonly kind: 'ours';
			readonly id: number;
			readonly dispatchId: number;
			readonly at: number;
			readonly way: Way;
			readonly who: string;
			readonly mine: boolean;
			readonly words: string;
			/** The words it went out in, where they were others. */
			readonly sentAs: string | null;
			readonly state: DeliveryState;
			readonly strength: Strength;
			readonly stateAt: number;
			readonly dueAt: number;
			/** Why it failed, in plain words. */
			readonly why: string | null;
			readonly files: readonly string[];
			/** Whether it can still be called back, and how many copies go with it. */
			readonly held: boolean;
			readonly copies: number;
	  }
	| {
			readonly kind: 'act';
			readonly id: number;
			readonly at: number;
			readonly act: ConversationAct;
			readonly by: string | null;
			/** To whom. */
			readonly to: string | null;
			readonly until: number | null;
	  };

/** One conversation opened. */
export interface OpenedTalk {
	readonly id: number;
	readonly state: ConversationState;
	readonly asideUntil: number | null;
	readonly lines: readonly TalkLine[];
	/** How it can be answered, the usual way first; empty where no way works. */
	readonly ways: readonly {
		readonly way: Way;
		readonly address: string | null;
		readonly quietUntil: number | null;
	}[];
	/** The language its reader gets, BCP 47; null where that is English or nobody is known. */
	readonly language: string | null;
	readonly languageName: string | null;
	readonly number: string | null;
	/** Whether this user may pass it on, and to whom it was. */
	readonly guests: readonly { readonly id: number; readonly name: string }[];
	readonly byGuest: boolean;
}
