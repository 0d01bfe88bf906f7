import type { Reachable, ReachableAdult, ReachableIn } from '../../../core/plan/reachable';

/** Some students by where they are. */
export interface Place {
	readonly key: string;
	readonly name: string;
	readonly students: readonly number[];
}

/** A place, and how well its families can be reached. */
export interface PlaceLine extends Reachable {
	/** Names it in an address: "school-1", "grade-1-7", "section-100", "group-3", or "sheet-" and a sheet's key for whom it is about. */
	readonly key: string;
	readonly name: string;
	/** How many languages the adults of its students read. */
	readonly languages: number;
}

/** What the landing shows: the places a user looks after, and all of them together. */
export interface PlacesView {
	readonly what: 'schools' | 'grades' | 'sections';
	readonly lines: readonly PlaceLine[];
	/** Null where there is one line or none. */
	readonly all: PlaceLine | null;
}

/** One student and those who are written to for them, by which ways. */
export interface ReachLine {
	readonly studentId: number;
	readonly name: string;
	readonly note: string;
	readonly adults: readonly ReachableAdult[];
}

/** The names behind a number. */
export interface ReachView {
	readonly place: PlaceLine;
	readonly languages: readonly (ReachableIn & { readonly name: string })[];
	readonly found: number;
	/** 1 is the first. */
	readonly page: number;
	readonly people: readonly ReachLine[];
}

/** A section in a list. */
export interface SectionLine {
	readonly id: number;
	readonly name: string;
	readonly school: string;
	readonly term: string;
	readonly staff: string;
	readonly students: number;
}
export interface SectionList {
	readonly found: number;
	readonly page: number;
	readonly lines: readonly SectionLine[];
	readonly terms: readonly {
		readonly id: number;
		readonly name: string;
		readonly running: boolean;
	}[];
	/** The term that is listed; null for all that run today. */
	readonly termId: number | null;
}

/** What was sent about a place's students, and how many of them are covered. */
export interface SentLine {
	readonly dispatchId: number;
	readonly subject: string;
	readonly sender: string;
	readonly leavesAt: number;
	readonly students: number;
	readonly covered: number;
}

/** What the page of any place of people shows: how its students are reached, who they are, what was last sent to them. */
export interface PlaceOfPeople {
	readonly id: number;
	readonly name: string;
	/** When the place went (instant, ms), or null. */
	readonly goneAt: number | null;
	readonly reach: PlaceLine;
	readonly people: readonly ReachLine[];
	readonly sent: readonly SentLine[];
}

/** A section as its page shows it; it goes with the roster. */
export interface SectionView extends PlaceOfPeople {
	readonly course: string;
	readonly school: string;
	readonly term: string;
	readonly period: string;
	readonly staff: readonly { readonly personId: number; readonly name: string }[];
	readonly mayCorrect: boolean;
}
