import type { ClockStyle } from '../../../core/copy/clock-style';
import type { Direction } from '../../../core/copy/direction';
import type { Note } from '../../../core/copy/note';

/** One letter in a person's inbox. */
export interface Letter {
	/** What names it in this inbox. */
	readonly key: string;
	/** The dispatch it is a copy of; null for a proof and for a letter to the staff. */
	readonly dispatchId: number | null;
	readonly subject: string;
	/** Made by us from the wording: safe to show. */
	readonly html: string;
	readonly language: string;
	readonly direction: Direction;
	readonly sender: string;
	readonly senderTitle: string;
	/** "For Ana and Rui" in the letter's language; empty where it is about nobody but its reader. */
	readonly about: string;
	/** The students it is about, by id. */
	readonly studentIds: readonly number[];
	/** Section, period and teacher, a line each. */
	readonly sectionLines: readonly string[];
	/** What was recorded for it; null where nothing was. */
	readonly note: Pick<Note, 'fileId' | 'kind' | 'ms' | 'words'> | null;
	/** Files to be opened from here. */
	readonly files: readonly { readonly id: number; readonly words: string }[];
	readonly leftAt: number;
	/** Whether its time is over: it lies behind the others. */
	readonly over: boolean;
	/** When this person said "I have seen this", or null. */
	readonly seenAt: number | null;
	/** Whether its reader can say that they have seen it: not of a proof, and not of what the courier writes to the staff. */
	readonly mayAcknowledge: boolean;
	/** Whether it can be answered here: not an announcement, nor what the courier writes. */
	readonly mayAnswer: boolean;
	/** As whom it is looked at, where it is a proof and no letter. */
	readonly proofAs: string | null;
}

/** One line of what somebody and school said to each other. */
export interface FamilyLine {
	readonly key: string;
	readonly at: number;
	/** Who of the staff; null for the reader themselves. */
	readonly who: string | null;
	readonly words: string;
	/** What it is a copy of, where it is ours. */
	readonly dispatchId: number | null;
	readonly files: readonly {
		readonly id: number;
		readonly name: string;
		readonly kept: boolean;
		readonly why: string | null;
	}[];
}

/** A conversation as its family sees it. */
export interface FamilyTalk {
	readonly id: number;
	/** The letter it is about; null where the family began it. */
	readonly dispatchId: number | null;
	readonly subject: string;
	/** To whose staff it was begun. */
	readonly section: string | null;
	readonly hours: string;
	readonly lastAt: number;
	/** Who answers. */
	readonly handler: string | null;
	/** What whoever answers says while away; null where they are there. */
	readonly away: string | null;
	readonly lines: readonly FamilyLine[];
}

/** A student whose letters can be looked at alone. */
export interface FamilyStudent {
	readonly id: number;
	readonly name: string;
}

/** What every page for a family says of itself. */
export interface PageHead {
	readonly person: string;
	/** BCP 47 tag of the language this person wants to read. */
	readonly language: string;
	readonly district: string;
	/** How a time of day is written in English. */
	readonly clock: ClockStyle;
	readonly zone: string;
	/** Instant, ms. */
	readonly now: number;
}

export interface FamilyInbox extends PageHead {
	readonly letters: readonly Letter[];
	readonly talks: readonly FamilyTalk[];
	readonly students: readonly FamilyStudent[];
}

/** A change of what somebody gets: of a field, what it was and is; by themselves, or by the school. */
export interface ChoiceChange {
	readonly at: number;
	readonly field: string;
	readonly before: string | null;
	readonly after: string | null;
	readonly own: 0 | 1;
}

/** What somebody gets and how, as their page of choices shows it. Times are "21:00"; empty where the district's hold. */
export interface FamilyChoices {
	readonly language: string;
	readonly languages: readonly string[];
	/** "message email" for each kind and way that is wanted. */
	readonly wants: readonly string[];
	readonly quietFrom: string;
	readonly quietTo: string;
	/** When the ordinary letters of a day come in one; empty where each comes by itself. */
	readonly digest: string;
	/** Whether others read at a mail address of theirs. */
	readonly sharesMail: boolean;
	readonly zone: string;
	readonly usualZone: string;
	readonly usualQuiet: Readonly<
		Record<'text' | 'mail', { readonly from: string; readonly to: string }>
	>;
	readonly phones: readonly { readonly id: number; readonly value: string; readonly on: boolean }[];
	readonly mails: readonly string[];
	readonly changes: readonly ChoiceChange[];
}
