import { z } from 'zod';
import { dayAfter, localOf, placeLocal } from '../time/local';

/** The most days after it leaves by which something can be wanted. */
const mostDays = 14;

/** By when how many are to know: so many days after it leaves at a local time, and the share of students, in hundredths. */
export const wantedSchema = z.object({
	days: z.number().int().min(0).max(mostDays),
	time: z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/),
	share: z.number().int().min(10).max(100)
});
export type Wanted = z.infer<typeof wantedSchema>;

/** Nine of ten by the next morning, before school: common practice. */
export const usualWanted: Wanted = { days: 1, time: '07:00', share: 90 };

/** The instant (ms) by which it is wanted of what leaves at an instant; a time that has passed by then on its own day is the next day's. */
export function wantedBy({ days, time }: Wanted, leavesAt: number, zone: string): number {
	const day = localOf(leavesAt, zone).slice(0, 10);
	const on = (n: number) => placeLocal(`${dayAfter(day, n)}T${time}`, zone).at;
	return on(days) > leavesAt ? on(days) : on(days + 1);
}

/** How a time that somebody names is wanted: the days between, by the calendar of a zone; or why it cannot be. */
export function wantedFrom(
	by: number,
	leavesAt: number,
	zone: string,
	share: number
): { readonly ok: true; readonly wanted: Wanted } | { readonly ok: false; readonly why: string } {
	if (by <= leavesAt)
		return { ok: false, why: 'Nobody has it before it leaves: choose a time after that.' };
	const [from, to] = [localOf(leavesAt, zone), localOf(by, zone)];
	const days = (Date.parse(to.slice(0, 10)) - Date.parse(from.slice(0, 10))) / 86_400_000;
	if (days > mostDays)
		return {
			ok: false,
			why: `That is ${days} days after it leaves; say a time within ${mostDays} days of leaving.`
		};
	return { ok: true, wanted: { days, time: to.slice(11, 16), share } };
}
