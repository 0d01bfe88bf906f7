import type { Direction } from '../../../core/copy/direction';

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
	/** Section, period and teacher, a line each. */
	readonly sectionLines: readonly string[];
	/** Files to be opened from here. */
	readonly files: readonly { readonly id: number; readonly words: string }[];
	readonly leftAt: number;
	/** When this person said "I have seen this", or null. */
	readonly seenAt: number | null;
	/** Whether its reader can say that they have seen it: not of a proof, and not of what the courier writes to the staff. */
	readonly mayAcknowledge: boolean;
	/** As whom it is looked at, where it is a proof and no letter. */
	readonly proofAs: string | null;
}

export interface FamilyInbox {
	readonly person: string;
	/** BCP 47 tag of the language this person wants to read. */
	readonly language: string;
	readonly district: string;
	readonly zone: string;
	readonly now: number;
	readonly letters: readonly Letter[];
}
