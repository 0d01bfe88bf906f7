import type { DateOrder } from '$lib/core/time/said';

/** The viewer's own order of day and month, as their browser writes a date. */
export const dateOrder = (): DateOrder =>
	new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'numeric' })
		.formatToParts(new Date(2027, 2, 12))
		.find((p) => p.type === 'day' || p.type === 'month')?.type === 'day'
		? 'day-first'
		: 'month-first';
