import { weekdayOf } from './local';

/** Days on which no school is held: a holiday, a storm, a vacation. */
export interface Closure {
	/** The school it is for, or null for all of them. */
	readonly schoolId: number | null;
	readonly name: string;
	/** ISO dates, half-open. */
	readonly startsOn: string;
	readonly endsOn: string;
}

export interface SchoolCalendar {
	/** Days of the week with school, Monday 1 to Sunday 7. */
	readonly weekdays: readonly number[];
	readonly terms: readonly { readonly startsOn: string; readonly endsOn: string }[];
	readonly closures: readonly Closure[];
}

const covers = (span: { startsOn: string; endsOn: string }, date: string) =>
	date >= span.startsOn && date < span.endsOn;

/** The closure that keeps every one of some schools shut on a day; of no school in particular, one of the whole district. */
export function closureOn(
	calendar: SchoolCalendar,
	date: string,
	schoolIds: readonly number[] = []
): Closure | null {
	const here = calendar.closures.filter((c) => covers(c, date));
	const all = here.find((c) => c.schoolId === null);
	if (all || schoolIds.length === 0) return all ?? null;
	const own = schoolIds.map((id) => here.find((c) => c.schoolId === id));
	return own.every(Boolean) ? own[0]! : null;
}

/** Every closure of a day, the whole district's first. */
export const closuresOn = (calendar: SchoolCalendar, date: string): Closure[] =>
	calendar.closures
		.filter((c) => covers(c, date))
		.sort((a, b) => Number(a.schoolId !== null) - Number(b.schoolId !== null));

/** Whether at least one of some schools is held on a day. */
export const isSchoolDay = (
	calendar: SchoolCalendar,
	date: string,
	schoolIds: readonly number[] = []
): boolean =>
	calendar.weekdays.includes(weekdayOf(date)) &&
	calendar.terms.some((t) => covers(t, date)) &&
	closureOn(calendar, date, schoolIds) === null;
