import type { ClockStyle } from '$lib/core/copy/clock-style';
import { nearTime } from '$lib/core/time/zone';

/** How instants (ms) read on a page for a family: in English as the district writes them, else as their language does. */
export function readerWhen({
	language,
	zone,
	now,
	clock
}: {
	readonly language: string;
	readonly zone: string;
	readonly now: number;
	readonly clock: ClockStyle;
}): (at: number) => string {
	if (/^en(-|$)/i.test(language)) return (at) => nearTime(at, now, zone, clock);
	const format = new Intl.DateTimeFormat(language, {
		timeZone: zone,
		dateStyle: 'medium',
		timeStyle: 'short'
	});
	return (at) => format.format(at);
}
