import type { GroupHow } from '../../db/models/roster';
import type { PlaceOfPeople } from '../places/types';

/** A group in a list. */
export interface GroupLine {
	readonly id: number;
	readonly name: string;
	/** "house", "choir", "ferry run". */
	readonly kind: string;
	/** The school it is of; empty for the whole district. */
	readonly school: string;
	readonly members: number;
	/** By which people join it; null where it is not open. */
	readonly code: string | null;
	/** Those who have joined by it. */
	readonly joined: number;
}

/** How a member came in. */
export interface MemberNote {
	readonly how: GroupHow | null;
	/** Instant, ms; null where it is not known. */
	readonly since: number | null;
	readonly by: string | null;
}

/** A group as its page shows it. */
export interface GroupView extends Omit<GroupLine, 'members'>, PlaceOfPeople {
	readonly cameIn: Readonly<Record<number, MemberNote>>;
	/** Kept audiences whose students can be put in. */
	readonly kept: readonly { readonly id: number; readonly name: string }[];
}

/** Students whom a list names, and the lines of it that name none or several: seen before anything is done. */
export interface FoundStudents {
	readonly found: readonly { readonly id: number; readonly name: string; readonly note: string }[];
	readonly already: number;
	readonly wrong: readonly { readonly line: number; readonly text: string }[];
}
