import { strict } from 'chrono-node';
import { DateTime } from 'luxon';

/** A date that a wording names. */
export interface NamedDate {
	/** As it stands there. */
	readonly text: string;
	/** ISO date; where no year is named, the nearest. */
	readonly day: string;
	/** The weekday that belongs to it, where another one is named. */
	readonly rightWeekday: string | null;
	readonly past: boolean;
}

/** The dates that English words name by day and month, seen from an instant in a zone. What could be something else ("3/4") is passed over. */
export function datesIn(text: string, now: number, zone: string): NamedDate[] {
	const here = DateTime.fromMillis(now, { zone });
	const today = here.toISODate()!;
	const found = strict.parse(text, { instant: new Date(now), timezone: here.offset });
	const dates = new Map<string, NamedDate>();
	for (const { text: words, start } of found) {
		if (!start.isCertain('day') || !start.isCertain('month')) continue;
		if (!/[a-z]{3}|\d{4}/i.test(words)) continue;
		const day = DateTime.fromObject(
			{ year: start.get('year')!, month: start.get('month')!, day: start.get('day')! },
			{ zone }
		);
		if (!day.isValid) continue;
		// Luxon counts Monday as 1 and Sunday as 7, the parser Sunday as 0.
		const named = start.isCertain('weekday') ? (start.get('weekday')! + 6) % 7 : null;
		const iso = day.toISODate()!;
		dates.set(words, {
			text: words.replace(/^(on|by|until|from|till)\s+/i, ''),
			day: iso,
			rightWeekday:
				named === null || named === day.weekday - 1
					? null
					: day.setLocale('en-US').toFormat('cccc'),
			past: iso < today
		});
	}
	return [...dates.values()];
}
