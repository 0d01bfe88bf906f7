import { en } from 'chrono-node';
import { DateTime } from 'luxon';
import { unfloating, type LocalTime } from './local';

/** In which order the viewer writes a date in figures: 3/4 is March 4 or April 3. */
export type DateOrder = 'month-first' | 'day-first';

export type ReadMoment =
	| { readonly ok: true; readonly local: LocalTime; readonly timeSaid: boolean }
	| { readonly ok: false; readonly why: string };

/**
 * Reads a moment as people type it: "fri 2:15pm", "tomorrow 7:20", "mar 12 at noon", "3/12 14:15".
 * Seen from `now` in a zone, and looking ahead: "fri" on a Friday afternoon is the next one. Without
 * a time of day the one of `usual` is taken and `timeSaid` is false.
 */
export function readMoment(
	text: string,
	now: number,
	zone: string,
	order: DateOrder,
	usual: LocalTime
): ReadMoment {
	const here = DateTime.fromMillis(now, { zone });
	const why = `"${text.trim().slice(0, 40)}" cannot be read as a time. Say it like "fri 2:15pm", "tomorrow 7:20" or "mar 12 2 pm".`;
	const typed = text.trim();
	if (typed === '' || typed.length > 100) return { ok: false, why };
	// A year first has one meaning only.
	const iso = /^(\d{4}-\d\d-\d\d)[T ](\d\d?:\d\d)$/.exec(typed);
	if (iso) {
		const local = `${iso[1]}T${iso[2]!.padStart(5, '0')}`;
		return DateTime.fromISO(local, { zone: 'utc' }).isValid
			? { ok: true, local, timeSaid: true }
			: { ok: false, why };
	}
	// Only figures have an order: where the month is a word, nothing is left to choose.
	const inFigures = /\d\s*[/.-]\s*\d/.test(typed);
	const reader = order === 'day-first' && inFigures ? en.GB : en.casual;
	const found = reader.parse(
		typed,
		{ instant: new Date(now), timezone: here.offset },
		{ forwardDate: true }
	);
	const best = found[0];
	// A piece of what was typed is not what was meant: "fri 2:15pm or so" is asked again.
	if (!best || best.text.length < typed.replace(/[\s.,]+$/, '').length) return { ok: false, why };
	const { start } = best;
	const timeSaid = start.isCertain('hour') || /morning|noon|evening|night/i.test(typed);
	const wall = DateTime.fromObject(
		{
			year: start.get('year')!,
			month: start.get('month')!,
			day: start.get('day')!,
			hour: timeSaid ? start.get('hour')! : Number(usual.slice(11, 13)),
			minute: timeSaid ? (start.get('minute') ?? 0) : Number(usual.slice(14, 16))
		},
		{ zone: 'utc' }
	);
	if (!wall.isValid) return { ok: false, why };
	// "tue 7am" on a Tuesday at 8 means the next one.
	const onlyWeekday = start.isCertain('weekday') && !start.isCertain('day');
	const passed =
		onlyWeekday && unfloating(wall) < unfloating(here.setZone('utc', { keepLocalTime: true }));
	return { ok: true, local: unfloating(passed ? wall.plus({ weeks: 1 }) : wall), timeSaid };
}
