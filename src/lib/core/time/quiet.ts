import { DateTime } from 'luxon';
import { dayAfter, placeLocal, startOfDay } from './local';
import { clockOfMinute } from './zone';

/**
 * Hours of the local day in which nothing ordinary arrives, half-open, in minutes after local
 * midnight; they may run past midnight. The same minute twice means none.
 */
export interface QuietHours {
	readonly fromMinute: number;
	readonly toMinute: number;
}

/** 47 CFR 64.1200(c)(1): calls to homes from 8 am to 9 pm by the called person's clock. The usual for texts. */
export const callingHours: QuietHours = { fromMinute: 21 * 60, toMinute: 8 * 60 };
/** Mail and inbox make no noise by themselves; a message before school is common practice. */
export const stillHours: QuietHours = { fromMinute: 21 * 60, toMinute: 6 * 60 + 30 };

export const isQuietMinute = ({ fromMinute, toMinute }: QuietHours, minute: number): boolean =>
	fromMinute <= toMinute
		? minute >= fromMinute && minute < toMinute
		: minute >= fromMinute || minute < toMinute;

/** What one copy keeps to. */
export interface QuietRules {
	/** Every one of these holds: the district's or the schools', and the person's own. */
	readonly hours: readonly QuietHours[];
	/** Whether nothing ordinary goes out on a day (ISO date), since no school concerned is open. */
	readonly closed: (date: string) => boolean;
	/** The zone of the one who reads. */
	readonly zone: string;
}

/** Days that are looked at before it is given up: longer than any vacation. */
const farthestDays = 120;

/** The first instant at or after `at` that is not quiet, or null where none comes within 120 days. */
export function nextAllowed(at: number, rules: QuietRules): number | null {
	const { zone } = rules;
	let now = at;
	const first = DateTime.fromMillis(at, { zone }).toISODate()!;
	const last = dayAfter(first, farthestDays);
	for (;;) {
		const local = DateTime.fromMillis(now, { zone });
		const date = local.toISODate()!;
		if (date > last) return null;
		if (rules.closed(date)) {
			now = startOfDay(dayAfter(date), zone);
			continue;
		}
		const minute = local.hour * 60 + local.minute;
		const quiet = rules.hours.find((h) => isQuietMinute(h, minute));
		if (!quiet) return now;
		const end = quiet.toMinute > minute ? date : dayAfter(date);
		const next =
			quiet.toMinute === 24 * 60
				? startOfDay(dayAfter(date), zone)
				: placeLocal(`${end}T${clockOfMinute(quiet.toMinute)}`, zone).at;
		// Where the clock goes back within quiet hours their end may lie behind: an hour on is safe.
		now = next > now ? next : now + 3_600_000;
	}
}
