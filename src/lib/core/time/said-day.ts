import { monthNames, weekdayNames, type DateOrder, type Said } from './said';

/** A day as it was said: what of it was left open is null. */
export interface SaidDay {
	readonly year: number | null;
	readonly month: number | null;
	readonly day: number;
	/** The weekday that was said beside it. */
	readonly weekday: number | null;
}

/** A year of four figures, or of two behind a stroke or an apostrophe; it must be a whole word. */
function yearOf(said: Said, short: boolean): number | null {
	return said.try(() => {
		const marked = said.take('’') || said.take("'");
		const length = said.next.length;
		if (length !== 4 && !((marked || short) && length === 2)) return null;
		const year = said.figures(4);
		if (year === null) return null;
		// A time of day or a part of a larger word is no year.
		if (said.close && /[\p{L}:]/u.test(said.next)) return null;
		return length === 2 ? 2000 + year : year;
	});
}

/** A year that may follow a day, with a comma or without. */
const yearAfter = (said: Said): number | null =>
	said.try(() => {
		said.take(',');
		return yearOf(said, false);
	});

const ending = (said: Said): void => {
	if (said.close) said.takeAny('st', 'nd', 'rd', 'th');
};

/**
 * A day by its date: "june 11", "June 11th, 2027", "11 june", "2027-06-11", "6/11", "6/11/27", "the
 * 12th". A weekday may stand before it. Null where none stands next.
 */
export function takeDay(said: Said, order: DateOrder): SaidDay | null {
	return said.try(() => {
		const weekday = said.weekday();
		if (weekday !== null) {
			said.take(',');
			said.take('the');
		}
		const iso = said.try(() => {
			if (said.next.length !== 4) return null;
			const year = said.figures(4);
			if (year === null || !said.take('-')) return null;
			const month = said.figures(2);
			if (month === null || !said.take('-')) return null;
			const day = said.figures(2);
			return day === null ? null : { year, month, day, weekday };
		});
		if (iso) return iso;
		const month = said.month();
		if (month !== null) {
			said.take('the');
			const day = said.figures(2) ?? said.ordinal();
			// "march 2pm", "march 2:15" is no day.
			if (day === null || (said.close && /^(am|pm|a|p|:|-)$/.test(said.next))) return null;
			ending(said);
			return { year: yearAfter(said), month, day, weekday };
		}
		const bare = said.try(() => {
			const the = said.take('the');
			const start = said.at;
			const day = said.figures(2) ?? (the ? said.ordinal() : null);
			if (day === null || day < 1) return null;
			const plain = said.at - start === 1 && !(said.close && /^(st|nd|rd|th)$/.test(said.next));
			ending(said);
			said.take('of');
			const named = said.month();
			if (named !== null) return { year: yearAfter(said), month: named, day, weekday };
			// A bare figure is an hour, not a day: "fri 2".
			return plain ? null : { year: null, month: null, day, weekday };
		});
		if (bare) return bare;
		return said.try(() => {
			const first = said.figures(2);
			const stroke = said.takeAny('/', '.', '-');
			if (first === null || stroke === null) return null;
			const second = said.figures(2);
			if (second === null) return null;
			// "2-3pm" is a stretch of time, "2.15pm" a time.
			if (said.close && /^(am|pm|a|p)$/.test(said.next)) return null;
			const year = said.take(stroke) ? yearOf(said, true) : null;
			// With strokes of another kind only a whole date is one: "7-8" and "7.30" are times.
			if (stroke !== '/' && year === null) return null;
			const [month, day] = order === 'day-first' ? [second, first] : [first, second];
			return { year, month, day, weekday };
		});
	});
}

/** The ISO date of a day; null where no calendar has it. */
export function isoDate(year: number, month: number, day: number): string | null {
	const date = new Date(Date.UTC(year, month - 1, day));
	if (year < 1000 || year > 9999 || date.getUTCMonth() !== month - 1 || date.getUTCDate() !== day) {
		return null;
	}
	return date.toISOString().slice(0, 10);
}

/** A day that could not be placed, and why; or its ISO date. */
export type PlacedDay = { readonly date: string } | { readonly why: string };

/** The day that was meant, seen from an ISO date: what is left open is the next that fits. */
export function placeDay(said: SaidDay, from: string): PlacedDay {
	const [year, month] = [Number(from.slice(0, 4)), Number(from.slice(5, 7))];
	const candidates: (string | null)[] = [];
	if (said.month === null) {
		for (let n = 0; n < 12; n += 1) {
			const m = month - 1 + n;
			candidates.push(isoDate(year + Math.floor(m / 12), (m % 12) + 1, said.day));
		}
	} else if (said.year === null) {
		// Up to the next leap day, also over a century.
		for (let n = 0; n <= 8; n += 1) candidates.push(isoDate(year + n, said.month, said.day));
	} else candidates.push(isoDate(said.year, said.month, said.day));
	const date = candidates.find((d) => d !== null && (said.year !== null || d >= from)) ?? null;
	if (date === null) return { why: 'There is no such day.' };
	if (said.weekday !== null) {
		const right = ((new Date(`${date}T00:00Z`).getUTCDay() + 6) % 7) + 1;
		if (right !== said.weekday) {
			return { why: `${dateWords(date)} is a ${capital(weekdayNames[right - 1]!)}.` };
		}
	}
	return { date };
}

export const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);

/** "June 11, 2027". */
export const dateWords = (date: string): string =>
	`${capital(monthNames[Number(date.slice(5, 7)) - 1]!)} ${Number(date.slice(8, 10))}, ${date.slice(0, 4)}`;
