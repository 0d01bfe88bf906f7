import type { Share } from '../../../core/track/share';
import type { Silence } from '../../../core/track/silent';

/** A part of the homes that were written to, and how many of them nothing reached. */
export interface SilentGroup {
	/** Id of a school, or tags of languages with a comma between. */
	readonly key: string;
	readonly name: string;
	readonly share: Share;
}

/** A group in which more or fewer homes are reached by nothing than chance would make them. */
export interface StandsOut {
	readonly name: string;
	readonly by: 'school' | 'language';
	readonly more: boolean;
	/** How likely by chance alone, corrected for how many were compared. */
	readonly chance: number;
}

/** An adult of a home. */
interface SilentAdult {
	readonly personId: number;
	readonly name: string;
	readonly relation: string;
	readonly language: string;
	/** Every number on file, as written: one that takes no texts may well be answered. */
	readonly numbers: readonly string[];
}

/** A home that nothing reached. Instants in ms. */
export interface SilentLine {
	readonly householdId: number | null;
	readonly studentId: number | null;
	readonly kind: Silence;
	readonly students: readonly {
		readonly id: number;
		readonly name: string;
		readonly section: string;
	}[];
	/** The school of the youngest, by which the home is counted. */
	readonly school: string;
	readonly adults: readonly SilentAdult[];
	/** How many dispatches were meant for it, copies that left, and how many of those did not come back. */
	readonly meant: number;
	readonly left: number;
	readonly arrived: number;
	/** What is known of why, a phrase each. */
	readonly why: readonly string[];
	/** What would probably reach it. */
	readonly try: string;
	/** When anybody of it last read anything; null where never. */
	readonly lastReadAt: number | null;
	/** When somebody last spoke to it, and who; null where nobody has. */
	readonly spoken: { readonly at: number; readonly by: string; readonly words: string } | null;
}

/** How many homes were written to in a stretch, and what reached them. */
export interface SilentCounts {
	readonly since: number;
	readonly until: number;
	/** Homes for which something was meant. */
	readonly homes: number;
	readonly silent: number;
	readonly kinds: Readonly<Record<Silence, number>>;
	/** Homes that nothing else has reached, which somebody spoke to in the stretch. */
	readonly spoken: number;
	/** Dispatches that left in it. */
	readonly dispatches: number;
}

/** The page of the families that nothing reaches. */
export interface SilentView extends SilentCounts {
	readonly schools: readonly SilentGroup[];
	readonly languages: readonly SilentGroup[];
	/** How many groups were compared, and which stand out. */
	readonly compared: number;
	readonly standingOut: readonly StandsOut[];
	readonly lines: readonly SilentLine[];
	/** Homes that the filter leaves, and the page that is shown. */
	readonly found: number;
	readonly page: number;
}
