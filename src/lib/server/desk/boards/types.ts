import type { Direction } from '../../../core/copy/direction';
import type { PageHead } from '../family/types';

/** One announcement on a board, written out for whoever looks. */
export interface Post {
	readonly dispatchId: number;
	readonly subject: string;
	/** Made by us from the wording: safe to show. Empty of what lies behind and was not asked for. */
	readonly html: string;
	readonly language: string;
	readonly direction: Direction;
	/** Who sent it, with title; empty on a board that anybody can open. */
	readonly sender: string;
	readonly files: readonly { readonly id: number; readonly words: string }[];
	/** Instants, ms. */
	readonly from: number;
	readonly until: number | null;
	readonly pinned: boolean;
	/** When what it says here was last changed; null where it says what was sent. */
	readonly changedAt: number | null;
	/** What it said before, the newest first; only of what is written out. */
	readonly before: readonly {
		readonly at: number;
		readonly subject: string;
		readonly html: string;
	}[];
	/** Names of other boards of the reader that it stands on too. */
	readonly also: readonly string[];
}

/** A board at a moment. */
export interface BoardView {
	/** Names it in an address: "section-100". */
	readonly key: string;
	readonly name: string;
	/** The school of a section or group; empty else. */
	readonly of: string;
	readonly pinned: readonly Post[];
	readonly front: readonly Post[];
	readonly earlier: readonly Post[];
}

/** A board by its name, where it is only named. */
export interface BoardLine {
	readonly key: string;
	readonly name: string;
	readonly of: string;
}

/** The boards of a person's students. */
export interface FamilyBoards extends PageHead {
	readonly boards: readonly BoardView[];
	/** Terms that are over and whose sections' boards can still be read. */
	readonly terms: readonly { readonly id: number; readonly name: string }[];
	/** The term that is shown; null for what runs now. */
	readonly termId: number | null;
}

/** A board as anybody sees it who has its link. */
export interface OpenBoard extends Omit<PageHead, 'person'> {
	readonly board: BoardView;
	/** Languages in which something stands there, beside the one that is shown. */
	readonly languages: readonly { readonly tag: string; readonly name: string }[];
}

/** What staff see beside each announcement of a board. */
export interface PostFacts {
	readonly dispatchId: number;
	/** Whether the viewer may change it there. */
	readonly mine: boolean;
	/** Whether they find it in Reach. */
	readonly seen: boolean;
	/** How many people have read it there. */
	readonly readers: number;
}

/** A board as staff see it. */
export interface StaffBoard {
	readonly board: BoardView;
	readonly posts: readonly PostFacts[];
	/** Announcements that will stand there. */
	readonly coming: readonly {
		readonly dispatchId: number;
		readonly subject: string;
		readonly from: number;
		/** Whether the viewer finds it in Reach. */
		readonly seen: boolean;
	}[];
	/** How many people have it among their own. */
	readonly readers: number;
	/** The link for anybody: whether its place allows one, and where it is made. */
	readonly open: {
		readonly allowed: boolean;
		readonly mayMake: boolean;
		/** Whether the viewer may change what is allowed. */
		readonly maySet: boolean;
		readonly path: string | null;
		readonly madeAt: number | null;
		readonly madeBy: string | null;
	};
	/** How many people follow it by a link of their own. */
	readonly followers: number;
}

/** What boards say of a dispatch, for Reach; a board that its viewer does not open has no key. */
export interface OnBoards {
	readonly boards: readonly BoardLine[];
	readonly from: number;
	readonly until: number | null;
	readonly pinned: boolean;
	readonly changedAt: number | null;
	/** People who have read it there, and how many of them have no copy of their own. */
	readonly readers: number;
	readonly without: number;
	/** Students of whom an adult or they themselves have read it there. */
	readonly students: number;
	readonly mine: boolean;
}

export type Changed = { readonly ok: true } | { readonly ok: false; readonly why: string };
