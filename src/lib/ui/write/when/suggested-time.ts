import { leadMinutes } from '$lib/core/time/hold';
import { localOf, type LocalTime } from '$lib/core/time/local';
import { nextAllowed, type QuietHours } from '$lib/core/time/quiet';
import { closureOn, isSchoolDay, type SchoolCalendar } from '$lib/core/time/school-days';
import type { Way } from '$lib/core/roster/way';

/** What the district has settled about quiet, as far as a suggestion needs it. */
export interface QuietSettings {
	readonly quiet: { readonly text: QuietHours; readonly mail: QuietHours };
	/** Which days are quiet: none, those of closures, or all without school. */
	readonly quietDays: string;
	readonly calendar: SchoolCalendar;
}

const five = 5 * 60_000;

/** Half an hour ahead on a round five minutes, or the next moment that is not quiet for the chosen ways; seen from `now` (ms). */
export function suggestedTime(
	{ quiet, quietDays, calendar }: QuietSettings,
	ways: readonly Way[],
	now: number,
	zone: string
): LocalTime {
	const soon = Math.ceil((now + leadMinutes * 60_000) / five) * five;
	const closed = (date: string) =>
		quietDays === 'closures'
			? closureOn(calendar, date) !== null
			: quietDays === 'all' && !isSchoolDay(calendar, date);
	const hours = [
		...(ways.includes('text') ? [quiet.text] : []),
		...(ways.some((w) => w !== 'text') ? [quiet.mail] : [])
	];
	return localOf(nextAllowed(soon, { zone, hours, closed }) ?? soon, zone);
}
