import type { Way } from '../roster/way';
import type { ComingState } from './audience';

/** One person of a fixed list, for one student or for themselves. */
export interface ListEntry {
	readonly personId: number;
	readonly studentId: number | null;
	/** Whether they were kept by an explicit choice, whatever custody and correspondence say. */
	readonly explicit: boolean;
}

/** Those who joined an open group by its code. */
export interface JoinedGroup {
	/** Whether its last day is past: then nobody is written to by it. */
	readonly over: boolean;
	/** Each for the student they are there for, where the office has said so; else for themselves. */
	readonly members: readonly { readonly personId: number; readonly studentId: number | null }[];
}

/** What an audience asks of the world beside the roster. Read beforehand, so that working it out touches nothing. */
export interface Facts {
	/** Students of an earlier dispatch that it does not cover now. */
	uncovered(dispatchId: number): readonly number[];
	/** The section a student stood under in an earlier dispatch; null where that is not known, or none. */
	stoodUnder(dispatchId: number, studentId: number): number | null;
	hasRead(dispatchId: number, personId: number): boolean;
	/** How somebody stands with an earlier invitation. */
	coming(dispatchId: number, personId: number): ComingState;
	/** How often a way has been tried with a person in the matter that is followed up. */
	tried(personId: number, way: Way): number;
	/** The share of what is sent by a way that a person is to be expected to read, 0 to 1; null where it was not asked for. */
	reads(personId: number, way: Way): number | null;
	/** What a student's marker says: "yes", an ISO date or words; null where they lack it. */
	mark(markerId: number, studentId: number): string | null;
	/** Who is on a fixed list; undefined if the list is gone. */
	list(keptId: number): readonly ListEntry[] | undefined;
	/** Who joined an open group; undefined if the group is gone. */
	joined(groupId: number): JoinedGroup | undefined;
}

export const noFacts: Facts = {
	uncovered: () => [],
	stoodUnder: () => null,
	hasRead: () => false,
	coming: () => 'unsaid',
	tried: () => 0,
	reads: () => null,
	mark: () => null,
	list: () => undefined,
	joined: () => undefined
};
