import { DateTime } from 'luxon';

/** A local wall time without a zone, to the minute: "2027-03-12T14:15". What is planned is kept like this, so that it stays at its hour when clocks change. */
export type LocalTime = string;

export const localTimePattern = /^\d{4}-\d\d-\d\dT\d\d:\d\d$/;

/** Whether a local time exists once on its day, not at all, or twice: on the two nights when clocks change. */
export type Existence = 'once' | 'skipped' | 'twice';

export interface Placed {
	/** Instant, ms since the epoch. */
	readonly at: number;
	readonly existence: Existence;
}

/** The local time of an instant, to the minute. */
export const localOf = (at: number, zone: string): LocalTime =>
	DateTime.fromMillis(at, { zone }).toFormat("yyyy-MM-dd'T'HH:mm");

/** A local time as a moment of no zone, for sums on the wall clock. Invalid for a day that no calendar has. */
export const floating = (local: LocalTime): DateTime => DateTime.fromISO(local, { zone: 'utc' });
export const unfloating = (moment: DateTime): LocalTime => moment.toFormat("yyyy-MM-dd'T'HH:mm");

const minuteMs = 60_000;
const dayMs = 86_400_000;

/** Offsets at the beginning of days (UTC), by zone: what falls between two equal ones has their offset too. */
const offsets = new Map<string, Map<number, number>>();
function offsetOnDay(day: number, zone: string): number {
	let known = offsets.get(zone);
	if (!known) offsets.set(zone, (known = new Map()));
	let offset = known.get(day);
	if (offset === undefined) {
		if (known.size > 5_000) known.clear();
		known.set(day, (offset = offsetAt(day * dayMs, zone)));
	}
	return offset;
}
const offsetAt = (at: number, zone: string) => DateTime.fromMillis(at, { zone }).offset * minuteMs;

/**
 * The instant of a local time in a zone. The rule of RFC 5545 section 3.3.5: a time that the clock
 * passes over is read with the offset before the gap (2:30 becomes 3:30), one that comes twice is
 * the first. Throws a RangeError for what is no time at all: the form has checked it before.
 */
export function placeLocal(local: LocalTime, zone: string): Placed {
	const wall = localTimePattern.test(local) ? Date.parse(`${local}Z`) : NaN;
	// The platform takes February 30 for March 2.
	if (Number.isNaN(wall) || new Date(wall).toISOString().slice(0, 16) !== local) {
		throw new RangeError(`Not a local time: ${local}`);
	}
	// No zone changes its clocks twice within four days, and none is a day from UTC.
	const day = Math.floor(wall / dayMs);
	const before = offsetOnDay(day - 1, zone);
	const after = offsetOnDay(day + 2, zone);
	if (before === after) return { at: wall - before, existence: 'once' };
	const fits = [before, after].filter((offset) => offsetAt(wall - offset, zone) === offset);
	if (fits.length === 0) return { at: wall - before, existence: 'skipped' };
	return {
		at: Math.min(...fits.map((offset) => wall - offset)),
		existence: fits.length === 2 ? 'twice' : 'once'
	};
}

/** Midnight at the start of a local day (an ISO date), or the first moment of it where the clock passes over midnight. */
export const startOfDay = (date: string, zone: string): number =>
	DateTime.fromISO(date, { zone }).startOf('day').toMillis();

/** The ISO date `days` after another. */
export const dayAfter = (date: string, days = 1): string =>
	new Date(Date.parse(`${date}T00:00Z`) + days * dayMs).toISOString().slice(0, 10);

/** The day of the week of an ISO date, Monday 1 to Sunday 7. */
export const weekdayOf = (date: string): number =>
	((new Date(`${date}T00:00Z`).getUTCDay() + 6) % 7) + 1;
