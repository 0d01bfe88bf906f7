import { count } from '$lib/core/copy/count';
import { clockTime, dayTime } from '../../parts/clock';
import type { Timing } from '$lib/core/time/timing';
import type { Landing } from '$lib/server/desk/plan/types';

/** "12 copies and up to 3 in turn". */
function copiesWords(copies: number, inTurn: number): string {
	const first = copies - inTurn;
	return `${count(first)} ${first === 1 ? 'copy' : 'copies'}${inTurn > 0 ? ` and up to ${count(inTurn)} in turn` : ''}`;
}

type Asked = {
	readonly when: Timing['when'];
	readonly holdMinutes: number;
	/** Instant, ms. */
	readonly now: number;
	readonly zone: string;
};

/** "Put it on 3 boards, Wed Mar 10, 2:15 pm". */
function standWords(
	{ times }: Landing,
	boards: number,
	{ when, holdMinutes, now, zone }: Asked
): string {
	const on = boards === 1 ? 'the board' : `${count(boards)} boards`;
	const first = dayTime(times.moment.at, zone, now);
	switch (when.kind) {
		case 'now':
			return holdMinutes === 0
				? `Put it on ${on} at once`
				: `Put it on ${on}, standing ${clockTime(now + holdMinutes * 60_000, zone)}`;
		case 'at':
		case 'gain':
			return `Put it on ${on} for ${first}`;
		default:
			return times.coming === 1
				? `Put 1 date on ${on} for ${first}`
				: `Put ${times.coming} dates on ${on}, the first for ${first}`;
	}
}

/** What the action of a sheet will do: when something leaves, and how many copies; or on how many boards it stands. */
export function scheduleWords(
	landing: Landing | null,
	{ when, holdMinutes, now, zone }: Asked
): string {
	if (!landing?.times) return 'Counting…';
	const { times, tally } = landing;
	const copies = copiesWords(tally.copies, tally.inTurn);
	// What goes by no way only stands on boards.
	const stands = tally.copies === 0 ? (landing.boards?.names.length ?? 0) : 0;
	if (stands > 0) return standWords(landing, stands, { when, holdMinutes, now, zone });
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
			if (when.feed)
				return times.coming === 1
					? `Ask the feed on ${first}: ${copies} if it has something new`
					: `Ask the feed on ${times.coming} dates: ${copies} each time it has something new`;
			return times.coming === 1
				? `Schedule 1 date, ${copies}, for ${first}`
				: `Schedule ${times.coming} dates, the first with ${copies} on ${first}`;
	}
}
