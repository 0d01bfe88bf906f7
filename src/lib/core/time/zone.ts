import { DateTime } from 'luxon';

/** A school's own parts of the day, half-open, in local wall time. What falls in none of them is quiet. */
export interface DayPart {
	readonly key: 'before' | 'school' | 'after' | 'evening';
	readonly name: string;
	/** Minutes after local midnight. */
	readonly fromMinute: number;
	readonly toMinute: number;
}

export const dayParts: readonly DayPart[] = [
	{ key: 'before', name: 'Before school', fromMinute: 6 * 60 + 30, toMinute: 8 * 60 + 10 },
	{ key: 'school', name: 'School day', fromMinute: 8 * 60 + 10, toMinute: 15 * 60 },
	{ key: 'after', name: 'After school', fromMinute: 15 * 60, toMinute: 18 * 60 },
	{ key: 'evening', name: 'Evening', fromMinute: 18 * 60, toMinute: 20 * 60 + 30 }
];

/** A minute after midnight as a time of day, "14:15". */
export const clockOfMinute = (minute: number): string =>
	`${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;
/** When something usually leaves in each part, minutes after midnight (common practice: not at its edges). */
const usualMinute: Readonly<Record<DayPart['key'], number>> = {
	before: 7 * 60 + 15,
	school: 10 * 60,
	after: 15 * 60 + 30,
	evening: 18 * 60 + 30
};

/** The time of day ("14:15") something gets that is put into a part: its own where that lies in the part, else the part's usual one. */
export function usualTime(part: DayPart, own: string): string {
	const minute = Number(own.slice(0, 2)) * 60 + Number(own.slice(3, 5));
	return clockOfMinute(
		minute >= part.fromMinute && minute < part.toMinute ? minute : usualMinute[part.key]
	);
}

/** The part of the day an instant falls in, or null in quiet hours. */
export function dayPartOf(at: number, zone: string): DayPart | null {
	const local = DateTime.fromMillis(at, { zone });
	const minute = local.hour * 60 + local.minute;
	return dayParts.find((p) => minute >= p.fromMinute && minute < p.toMinute) ?? null;
}

/** One local day as a half-open interval of instants: 23 or 25 hours long on the two nights when clocks change. */
export interface LocalDay {
	/** ISO date. */
	readonly date: string;
	readonly from: number;
	readonly to: number;
	/** Minutes by which the clock goes forward (+) or back (-) on this day, else 0. */
	readonly clockShiftMinutes: number;
}

/** Some days in a row from an ISO date on. */
export function localDays(from: string, count: number, zone: string): LocalDay[] {
	const first = DateTime.fromISO(from, { zone }).startOf('day');
	return Array.from({ length: count }, (_, n) => {
		const start = first.plus({ days: n }).startOf('day');
		const end = first.plus({ days: n + 1 }).startOf('day');
		return {
			date: start.toISODate()!,
			from: start.toMillis(),
			to: end.toMillis(),
			clockShiftMinutes: end.offset - start.offset
		};
	});
}

/** The first day, an ISO date, of the week that holds a day; weeks begin with `first`, Monday 1 to Sunday 7. */
export const weekBegins = (day: DateTime, first: number): string =>
	day.minus({ days: (day.weekday - first + 7) % 7 }).toISODate()!;

/** The seven days of the week that holds `at`; it begins with `first`, Monday 1 (as in ISO 8601) to Sunday 7. */
export const weekOf = (at: number, zone: string, first = 1): LocalDay[] =>
	localDays(weekBegins(DateTime.fromMillis(at, { zone }), first), 7, zone);

/** "7:05 am". */
export function clockTime(at: number, zone: string): string {
	return DateTime.fromMillis(at, { zone })
		.setLocale('en-US')
		.toFormat('h:mm a')
		.replace(/AM|PM/, (m) => m.toLowerCase());
}

/** "5:00 pm" of a wall time as it is stored, "17:00". */
export function clockWords(time: string): string {
	const [hour, minute] = time.split(':').map(Number) as [number, number];
	return `${hour % 12 === 0 ? 12 : hour % 12}:${String(minute).padStart(2, '0')} ${hour < 12 ? 'am' : 'pm'}`;
}

/** A day this far off could be taken for the one of another year. */
const farDays = 300;

/** "Tue Mar 9"; seen from `now`, with the year where it is another one or more than 300 days off: "Thu Mar 9 2028". */
export function dayName(at: number, zone: string, now?: number): string {
	const day = DateTime.fromMillis(at, { zone }).setLocale('en-US');
	const far =
		now !== undefined &&
		(day.year !== DateTime.fromMillis(now, { zone }).year ||
			Math.abs(at - now) > farDays * 86_400_000);
	return day.toFormat(far ? 'ccc LLL d yyyy' : 'ccc LLL d');
}

/** "Tue Mar 9, 7:05 am"; with the year as {@link dayName} has it. */
export const dayTime = (at: number, zone: string, now?: number): string =>
	`${dayName(at, zone, now)}, ${clockTime(at, zone)}`;

/** "today 7:05 am", "yesterday 7:05 am" or "Mon Mar 8, 7:05 am", seen from `now`. */
export function nearTime(at: number, now: number, zone: string): string {
	const day = DateTime.fromMillis(at, { zone }).startOf('day');
	const today = DateTime.fromMillis(now, { zone }).startOf('day');
	const days = Math.round(day.diff(today, 'days').days);
	if (days === 0) return `today ${clockTime(at, zone)}`;
	if (days === -1) return `yesterday ${clockTime(at, zone)}`;
	return dayTime(at, zone, now);
}
