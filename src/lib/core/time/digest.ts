import { DateTime } from 'luxon';
import { dayAfter, placeLocal } from './local';
import { clockOfMinute } from './zone';

/** The time of the day, in minutes after local midnight, at which somebody gets the ordinary letters of a day in one. */
export type DigestMinute = number;

/** Days that are looked at before it is given up: longer than any vacation. */
const farthestDays = 120;

/**
 * The first digest of a reader at or after `at` (instants, ms), by their own clock, on a day that is not closed for
 * what it holds; null where none comes within 120 days. A time that the clock leaves out is read with the offset before
 * the gap, one that comes twice is the first (RFC 5545 section 3.3.5).
 */
export function nextDigest(
	at: number,
	minute: DigestMinute,
	{ zone, closed }: { readonly zone: string; readonly closed: (date: string) => boolean }
): number | null {
	let date = DateTime.fromMillis(at, { zone }).toISODate()!;
	for (let days = 0; days <= farthestDays; days += 1, date = dayAfter(date)) {
		const moment = placeLocal(`${date}T${clockOfMinute(minute)}`, zone).at;
		if (moment >= at && !closed(date)) return moment;
	}
	return null;
}
