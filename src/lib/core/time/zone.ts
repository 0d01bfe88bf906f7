import type { ClockStyle } from '../copy/clock-style';
import { DateTime } from 'luxon';

/** A part of the day, half-open, in local wall time. What falls in none of them is quiet. */
export interface DayPart {
	readonly key: 'before' | 'school' | 'after' | 'evening';
	readonly name: string;
	/** Minutes after local midnight. */
	readonly fromMinute: number;
	readonly toMinute: number;
}

/** The five minutes after local midnight that part a day: it begins, school begins, school ends, the evening begins, it ends. Each is later than the one before. */
export type DayMarks = readonly [number, number, number, number, number];
/** The usual ones; common practice. */
export const usualMarks: DayMarks = [6 * 60 + 30, 8 * 60 + 10, 15 * 60, 18 * 60, 20 * 60 + 30];

/** Whether each mark is later than the one before. */
export const dayMarksLater = (marks: DayMarks): boolean =>
	marks.every((mark, i) => i === 0 || mark > marks[i - 1]!);

const partNames = [
	['before', 'Before school'],
	['school', 'School day'],
	['after', 'After school'],
	['evening', 'Evening']
] as const;

/** The parts of a day. */
export const dayPartsOf = (marks: DayMarks): readonly DayPart[] =>
	partNames.map(([key, name], i) => ({
		...{ key, name },
		...{ fromMinute: marks[i]!, toMinute: marks[i + 1]! }
	}));

/** A minute after midnight as a time of day, "14:15". */
export const clockOfMinute = (minute: number): string =>
	`${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`;
/** How long after a part begins something usually leaves in it, minutes (common practice: not at its edges). */
const usualWait: Readonly<Record<DayPart['key'], number>> = {
	before: 45,
	school: 110,
	after: 30,
	evening: 30
};

/** The time of day ("14:15") something gets that is put into a part: its own where that lies in the part, else the part's usual one. */
export function usualTime({ key, fromMinute, toMinute }: DayPart, own: string): string {
	const minute = Number(own.slice(0, 2)) * 60 + Number(own.slice(3, 5));
	return clockOfMinute(
		minute >= fromMinute && minute < toMinute
			? minute
			: Math.min(fromMinute + usualWait[key], toMinute - 1)
	);
}

/** The part of the day an instant falls in, or null in quiet hours. */
export function dayPartOf(at: number, zone: string, parts: readonly DayPart[]): DayPart | null {
	const local = DateTime.fromMillis(at, { zone });
	const minute = local.hour * 60 + local.minute;
	return parts.find((p) => minute >= p.fromMinute && minute < p.toMinute) ?? null;
}

/** The city by which a zone is named: "New York". */
export const cityOf = (zone: string): string =>
	(zone.split('/').at(-1) ?? zone).replaceAll('_', ' ');

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

const halfDay = (clock: DateTime): string =>
	clock
		.setLocale('en-US')
		.toFormat('h:mm a')
		.replace(/AM|PM/, (m) => m.toLowerCase());

/** "7:05 am", or "07:05". */
export function clockTime(at: number, zone: string, style: ClockStyle = '12'): string {
	const clock = DateTime.fromMillis(at, { zone });
	return style === '24' ? clock.toFormat('HH:mm') : halfDay(clock);
}

/** "5:00 pm" of a wall time as it is stored, "17:00"; by a clock of 24 hours it stays. */
export const clockWords = (time: string, style: ClockStyle = '12'): string =>
	style === '24' ? time : halfDay(DateTime.fromISO(`2000-01-01T${time}`, { zone: 'utc' }));

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
export const dayTime = (at: number, zone: string, now?: number, style?: ClockStyle): string =>
	`${dayName(at, zone, now)}, ${clockTime(at, zone, style)}`;

/** "today 7:05 am", "yesterday 7:05 am" or "Mon Mar 8, 7:05 am", seen from `now`. */
export function nearTime(at: number, now: number, zone: string, style?: ClockStyle): string {
	const day = DateTime.fromMillis(at, { zone }).startOf('day');
	const today = DateTime.fromMillis(now, { zone }).startOf('day');
	const days = Math.round(day.diff(today, 'days').days);
	if (days === 0) return `today ${clockTime(at, zone, style)}`;
	if (days === -1) return `yesterday ${clockTime(at, zone, style)}`;
	return dayTime(at, zone, now, style);
}
