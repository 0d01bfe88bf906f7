import type { SchoolEvent } from '../../../core/time/school-event';
import type { FileEvent, FileProblem } from '../../../core/format/icalendar';
import type { DispatchLine } from '../week/types';
import type { Timing } from '../../../core/time/timing';

/** An event as Write offers it. */
export interface EventChoice {
	readonly id: number;
	readonly title: string;
	readonly startsAt: number;
	readonly endsAt: number;
}

/** An event with what hangs on it. */
export interface EventLine extends SchoolEvent {
	/** Names of the schools and sections it concerns, or "whole district". */
	readonly concerns: string;
	readonly reminders: number;
	readonly mine: boolean;
}

export type EventSaved =
	| { readonly ok: true; readonly id: number; readonly moved: number }
	| { readonly ok: false; readonly why: string };

/** What an iCalendar file would bring, before anything is changed. */
export interface CalendarPreview {
	readonly fresh: readonly FileEvent[];
	readonly changed: readonly FileEvent[];
	readonly same: number;
	readonly problems: readonly FileProblem[];
}

/** One date of a round as its page lists it. */
export interface DateLine extends DispatchLine {
	/** What names it: "1 days before start" as words, or its date by the rule. */
	readonly words: string;
	/** Whether it was changed by itself and no longer follows its round or event. */
	readonly own: boolean;
}

export interface RoundView {
	readonly id: number;
	readonly timing: Timing;
	/** The repetition in words, or empty for an event's reminders. */
	readonly rule: string;
	readonly eventId: number | null;
	readonly dates: readonly DateLine[];
}

export interface ClosureLine {
	readonly id: number;
	readonly name: string;
	readonly startsOn: string;
	readonly endsOn: string;
	readonly school: string | null;
}
