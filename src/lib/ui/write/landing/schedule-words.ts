import { count } from '$lib/core/copy/count';
import { clockTime, dayTime } from '../../parts/clock';
import type { Timing } from '$lib/core/time/timing';
import type { Landing } from '$lib/server/desk/plan/types';

/** "12 copies and up to 3 in turn". */
function copiesWords(copies: number, inTurn: number): string {
	const first = copies - inTurn;
	return `${count(first)} ${first === 1 ? 'copy' : 'copies'}${inTurn > 0 ? ` and up to ${count(inTurn)} in turn` : ''}`;
}

/** What the action of a sheet will do: when something leaves, and how many copies. */
export function scheduleWords(
	landing: Landing | null,
	{
		when,
		holdMinutes,
		now,
		zone
	}: {
		readonly when: Timing['when'];
		readonly holdMinutes: number;
		/** Instant, ms. */
		readonly now: number;
		readonly zone: string;
	}
): string {
	if (!landing?.times) return 'Counting…';
	const { times, tally } = landing;
	const copies = copiesWords(tally.copies, tally.inTurn);
	const first = dayTime(times.moment.at, zone, now);
	switch (when.kind) {
		case 'now':
			return holdMinutes === 0
				? `Send ${copies} at once`
				: `Send ${copies}, leaving ${clockTime(now + holdMinutes * 60_000, zone)}`;
		case 'at':
			return `Schedule ${copies} for ${first}`;
		case 'gain':
			return `Let it wait for the marker: ${copies} if all gain it`;
		case 'event':
			return times.coming === 1
				? `Schedule 1 reminder, ${copies}, for ${first}`
				: `Schedule ${times.coming} reminders, the first with ${copies} on ${first}`;
		case 'round':
			return times.coming === 1
				? `Schedule 1 date, ${copies}, for ${first}`
				: `Schedule ${times.coming} dates, the first with ${copies} on ${first}`;
	}
}
