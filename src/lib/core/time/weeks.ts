import { dayAfter, floating } from './local';
import { weekBegins } from './zone';

/** The Monday of the week of a day (ISO dates; weeks as in ISO 8601). */
export const mondayOf = (date: string): string => weekBegins(floating(date), 1);

/** The Mondays of all weeks from a day to another, which is not in it. */
export function weeksBetween(from: string, until: string): string[] {
	const weeks: string[] = [];
	for (let monday = mondayOf(from); monday < until; monday = dayAfter(monday, 7))
		weeks.push(monday);
	return weeks;
}
