import type { LocalTime } from './local';

/** An event of the school's calendar. */
export interface SchoolEvent {
	readonly id: number;
	readonly uid: string;
	readonly title: string;
	readonly startsLocal: LocalTime;
	readonly endsLocal: LocalTime;
	readonly allDay: boolean;
	/** Instants, ms; half-open. */
	readonly startsAt: number;
	readonly endsAt: number;
	readonly place: string;
	/** Schools and sections concerned; none of either means the whole district. */
	readonly schoolIds: readonly number[];
	readonly sectionIds: readonly number[];
	readonly calledOff: boolean;
	readonly madeBy: number;
	/** The mark of this version (instant, ms). */
	readonly changedAt: number;
	/** How often it was changed: calendars elsewhere take the highest. */
	readonly sequence: number;
}
