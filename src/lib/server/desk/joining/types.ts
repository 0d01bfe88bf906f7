import type { JoinHow, JoiningRow } from '../../db/models/joining';

/** Somebody in the list of an open group: who was invited, has asked, is in, or was. */
export interface JoinerLine {
	readonly id: number;
	readonly name: string;
	readonly way: JoiningRow['way'];
	readonly address: string;
	readonly how: JoinHow;
	readonly state: JoiningRow['state'];
	/** Instants, ms. */
	readonly askedAt: number;
	readonly joinedAt: number | null;
	readonly endedAt: number | null;
	/** Who invited them, or took them out; null where it was nobody. */
	readonly by: string | null;
	/** Their page in People; null where the user may not open it. */
	readonly personId: number | null;
	/** The student they say they are there for; `refused` where the office said no. */
	readonly claim: { readonly words: string; readonly refused: boolean } | null;
	/** Once the office has said yes. */
	readonly student: { readonly id: number; readonly name: string } | null;
	/** Students of that name, for the office to choose from. */
	readonly fitting: readonly {
		readonly id: number;
		readonly name: string;
		readonly note: string;
	}[];
	/** What became of the last thing said to them, where it did not arrive. */
	readonly trouble: string | null;
}

/** The ways into an open group, as the sheet and the screen show them. */
export interface WaysIn {
	readonly group: string;
	readonly district: string;
	readonly code: string;
	/** The number as people read it; null where no text can be sent to us. */
	readonly number: string | null;
	readonly mail: string;
	readonly link: string;
	/** The last day (ISO date); null where it stays open. */
	readonly until: string | null;
	/** BCP 47 tags of the languages of its families, of those there are words in, the most usual first. */
	readonly languages: readonly string[];
}

/** An open group: how it is joined, and how many are how far. */
export interface JoiningHead {
	readonly id: number;
	readonly name: string;
	/** Instant, ms; null while it is there. */
	readonly goneAt: number | null;
	/** Null where it has no code. */
	readonly ways: WaysIn | null;
	/** Whether nobody comes in any more. */
	readonly over: boolean;
	/** How many were invited, have been asked, are in, have left or were taken out. */
	readonly counts: Readonly<Record<JoiningRow['state'], number>>;
}

/** An open group as its page shows it to the office. */
export interface JoiningView extends JoiningHead {
	/** The newest; a list to be had as CSV has all who are in. */
	readonly lines: readonly JoinerLine[];
	/** Languages an invitation can be in, and the one to begin with. */
	readonly languages: readonly { readonly tag: string; readonly name: string }[];
	readonly language: string;
}

/** What came of inviting a list of addresses. */
export interface Invited {
	readonly invited: number;
	/** Addresses that were not invited, each with the reason. */
	readonly not: readonly { readonly line: string; readonly why: string }[];
}

/** Cards (vCard) that were looked at: whom they would bring into which groups. Nothing is changed yet. */
export interface SeenCards {
	/** What the cards belong to (CATEGORIES), the most people first. */
	readonly groups: readonly {
		readonly name: string;
		readonly people: number;
		/** Whether there is a group of that name, which they come into; else it is made. */
		readonly there: boolean;
	}[];
	readonly people: number;
	/** Of them those who are on file already, by name and address. */
	readonly known: number;
	readonly wrong: readonly { readonly line: number; readonly text: string }[];
	/** The cards themselves, to be handed back when they are taken in. */
	readonly cards: string;
}
