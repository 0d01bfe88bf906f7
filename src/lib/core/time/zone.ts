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

/** The seven days of the ISO week that holds `at`, Monday first. */
export function weekOf(at: number, zone: string): LocalDay[] {
	const monday = DateTime.fromMillis(at, { zone }).startOf('week');
	return [0, 1, 2, 3, 4, 5, 6].map((n) => {
		const start = monday.plus({ days: n }).startOf('day');
		const end = monday.plus({ days: n + 1 }).startOf('day');
		return {
			date: start.toISODate()!,
			from: start.toMillis(),
			to: end.toMillis(),
			clockShiftMinutes: end.offset - start.offset
		};
	});
}

/** "7:05 am". */
export function clockTime(at: number, zone: string): string {
	return DateTime.fromMillis(at, { zone })
		.setLocale('en-US')
		.toFormat('h:mm a')
		.replace(/AM|PM/, (m) => m.toLowerCase());
}

/** "Tue Mar 9". */
export function dayName(at: number, zone: string): string {
	return DateTime.fromMillis(at, { zone }).setLocale('en-US').toFormat('ccc LLL d');
}

/** "Tue Mar 9, 7:05 am". */
export const dayTime = (at: number, zone: string): string =>
	`${dayName(at, zone)}, ${clockTime(at, zone)}`;

/** "today 7:05 am", "yesterday 7:05 am" or "Mon Mar 8, 7:05 am", seen from `now`. */
export function nearTime(at: number, now: number, zone: string): string {
	const day = DateTime.fromMillis(at, { zone }).startOf('day');
	const today = DateTime.fromMillis(now, { zone }).startOf('day');
	const days = Math.round(day.diff(today, 'days').days);
	if (days === 0) return `today ${clockTime(at, zone)}`;
	if (days === -1) return `yesterday ${clockTime(at, zone)}`;
	return dayTime(at, zone);
}
