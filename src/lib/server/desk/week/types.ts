import type { CoverageUnit } from '../../../core/track/coverage';
import type { DayPart, LocalDay } from '../../../core/time/zone';
import type { DayLoad } from '../../../core/plan/load';
import type { Way } from '../../../core/roster/way';
import type { SuggestedMove } from '../load/types';
import type { FileLine } from '../roster/types';

/** A dispatch as lists show it. */
export interface DispatchLine {
	readonly id: number;
	readonly subject: string;
	readonly sender: string;
	readonly state: 'draft' | 'scheduled' | 'sent';
	readonly ways: readonly Way[];
	readonly leavesAt: number | null;
	/** When it is over, or will be, reading and all (instant, ms); null while copies are still to leave. */
	readonly overAt: number | null;
	readonly changedAt: number;
	readonly copies: number;
	readonly byWay: Readonly<Partial<Record<Way, number>>>;
	/** Copies that have left or are accounted for otherwise. */
	readonly gone: number;
	/** Whether the copies are only foreseen: too far ahead to be written down. */
	readonly about: boolean;
	/** IANA name of the zone of the clock that its time is meant by. */
	readonly clockZone: string;
	/** When a draft is meant to leave (instant, ms), where it says so. */
	readonly intendedAt: number | null;
	/** Whether it may still be moved by the user. */
	readonly movable: boolean;
	/** Why it waits for an answer instead of leaving, or null. */
	readonly waits: string | null;
	readonly roundId: number | null;
	/** What the three numbers count. */
	readonly unit: CoverageUnit;
	readonly students: number;
	readonly covered: number;
	readonly unreachable: number;
	/** The audience as a sentence. */
	readonly audience: string;
}

/** A sheet that leaves by itself: whenever a student gains a marker, or a feed has something new. */
export interface StandingLine {
	readonly id: number;
	readonly subject: string;
	readonly waitsFor:
		| { readonly kind: 'marker'; readonly id: number; readonly name: string }
		| {
				readonly kind: 'feed';
				readonly address: string;
				readonly title: string;
				/** When it is asked next, and since when it cannot be read (instants, ms). */
				readonly nextAt: number | null;
				readonly failingSince: number | null;
				/** Entries that have been sent. */
				readonly entries: number;
		  };
	/** Whom it is about, as a sentence. */
	readonly words: string;
	readonly sender: string;
	readonly holdMinutes: number;
	/** Instants, ms. */
	readonly madeAt: number;
	readonly endsAt: number;
	readonly endedAt: number | null;
	/** Why it does not leave, until somebody has answered. */
	readonly waits: string | null;
	/** Students for whom it has left, and who have gained the marker and are held. */
	readonly students: number;
	readonly held: number;
	/** Those it may still come to, as last counted. */
	readonly expected: { readonly students: number; readonly copies: number };
	readonly mayEnd: boolean;
}

export interface StandingView extends StandingLine {
	readonly now: number;
	readonly sent: readonly DispatchLine[];
	/** Of a feed, what came of its last dates, the newest first. */
	readonly looks: readonly {
		readonly id: number;
		readonly at: number;
		readonly outcome: 'sent' | 'nothing' | 'failed' | 'missed';
		readonly entries: number;
		readonly why: string | null;
		readonly dispatchId: number | null;
	}[];
	/** Students for whom nothing left, and why. */
	readonly nothing: readonly {
		readonly studentId: number;
		readonly name: string;
		readonly why: string;
	}[];
}

/** A row of the week: a part of the day, or what lies outside all of them. */
export type TagRow = DayPart['key'] | 'quiet';

/** Something that stands on a day beside what leaves on it: an event, a school that is closed, a feed that is asked. */
export interface DayNote {
	readonly key: string;
	readonly kind: 'event' | 'closure' | 'feed';
	readonly text: string;
	/** When it starts (instant, ms); null for a whole day or one that it only goes on over. */
	readonly at: number | null;
	/** Where more of it stands. */
	readonly href: string | null;
	readonly calledOff: boolean;
}

interface WeekDay extends LocalDay {
	readonly today: boolean;
	readonly load: DayLoad;
	/** Why there is no school, or null. */
	readonly closed: string | null;
	/** Closures of single schools, and events. */
	readonly notes: readonly DayNote[];
	/** Tags by part of the day; `quiet` holds what leaves outside all of them. */
	readonly tags: Readonly<Record<TagRow, readonly DispatchLine[]>>;
}

export interface WeekView {
	readonly zone: string;
	/** How a day is parted for whoever looks. */
	readonly parts: readonly DayPart[];
	readonly now: number;
	readonly days: readonly WeekDay[];
	readonly dispatches: number;
	readonly copies: number;
	/** Messages a family may get in a day before it is pointed out. */
	readonly limit: number;
	readonly moves: readonly SuggestedMove[];
	readonly waiting: {
		readonly drafts: readonly DispatchLine[];
		/** Scheduled, but held up until somebody answers. */
		readonly answers: readonly DispatchLine[];
		/** Conversations with families that wait, and since when the oldest does. */
		readonly replies: {
			readonly waiting: number;
			readonly overDay: number;
			readonly oldest: number | null;
		};
		/** Of the last week, those with students nobody has read for. */
		readonly notCovered: readonly DispatchLine[];
		readonly mend: { readonly email: number; readonly text: number };
		/** Roster files that wait for whoever may bring them. */
		readonly rosters: readonly FileLine[];
		/** Sheets that leave whenever a student gains a marker. */
		readonly standing: readonly StandingLine[];
	};
}

/** One day of the month view. */
interface MonthDay extends LocalDay {
	readonly today: boolean;
	readonly inMonth: boolean;
	readonly load: DayLoad;
	readonly closed: string | null;
	readonly notes: readonly DayNote[];
	readonly lines: readonly DispatchLine[];
}

export interface MonthView {
	readonly zone: string;
	readonly now: number;
	readonly limit: number;
	/** ISO date of the first of the month. */
	readonly first: string;
	/** Whole weeks, Monday first. */
	readonly days: readonly MonthDay[];
}

interface ListedDispatch extends DispatchLine {
	/** Sent, and nothing more is expected of it. */
	readonly ended: boolean;
	readonly mine: boolean;
	/** Dates of its round that follow it and are not lines of their own, and when the last of them leaves. */
	readonly following: { readonly dates: number; readonly lastAt: number } | null;
}

export interface DispatchList {
	readonly lines: readonly ListedDispatch[];
	readonly found: number;
	readonly page: number;
	readonly pages: number;
	/** How many there are of each state that fit the search. */
	readonly counts: Readonly<Record<ListState, number>>;
	/** The day that the search was read as, where it names one (ISO date). */
	readonly day: string | null;
}

export const listStates = ['all', 'draft', 'scheduled', 'sent', 'ended'] as const;

export type ListState = (typeof listStates)[number];
