import type { ClockStyle } from '$lib/core/copy/clock-style';
import { pageLanguage } from '$lib/core/copy/phrases';
import { clockTime, nearTime } from '$lib/core/time/zone';

/** By whose clock and in whose language a page for a family says times. */
interface Reader {
	readonly language: string;
	readonly zone: string;
	/** Instant, ms. */
	readonly now: number;
	/** How the district writes a time of day in English. */
	readonly clock: ClockStyle;
}

/** How instants (ms) read on a page for a family: in English as the district writes them, else as their language does. */
export function readerTimes({ language, zone, now, clock }: Reader): {
	readonly time: (at: number) => string;
	/** Day and time. */
	readonly when: (at: number) => string;
} {
	const tag = pageLanguage(language);
	if (tag === 'en')
		return {
			time: (at) => clockTime(at, zone, clock),
			when: (at) => nearTime(at, now, zone, clock)
		};
	const format = (styles: Intl.DateTimeFormatOptions) => {
		const made = new Intl.DateTimeFormat(tag, { timeZone: zone, ...styles });
		return (at: number) => made.format(at);
	};
	return {
		time: format({ timeStyle: 'short' }),
		when: format({ dateStyle: 'medium', timeStyle: 'short' })
	};
}
