/**
 * What was said about time, word by word. A reader takes words off it; what is left over at the end
 * was not understood, and is named. Nothing is passed over in silence: that is the whole point.
 */

/** The order in which the viewer writes a date in figures: 3/4 is March 4 or April 3. */
export type DateOrder = 'month-first' | 'day-first';

interface Word {
	/** In small letters, without the stop of an abbreviation. */
	readonly text: string;
	/** Where it stands in what was said. */
	readonly from: number;
	readonly to: number;
	/** Whether it follows the word before without a space: "2pm", "12th", "3/12". */
	readonly close: boolean;
}

const wordPattern = /\d+|\p{L}+(?:\.\p{L})*\.?|[^\s\p{L}\d]/gu;

const small: readonly string[] =
	'zero one two three four five six seven eight nine ten eleven twelve'.split(' ');
const ordinals: readonly string[] =
	'zeroth first second third fourth fifth sixth seventh eighth ninth tenth'.split(' ');

export const monthNames: readonly string[] = [
	'january',
	'february',
	'march',
	'april',
	'may',
	'june',
	'july',
	'august',
	'september',
	'october',
	'november',
	'december'
];
/** Monday first, as ISO 8601 counts. */
export const weekdayNames: readonly string[] = [
	'monday',
	'tuesday',
	'wednesday',
	'thursday',
	'friday',
	'saturday',
	'sunday'
];
/** Usual short forms (common practice); a name is also taken by its first three letters. */
const shortWeekdays: Readonly<Record<string, number>> = {
	tues: 2,
	weds: 3,
	thur: 4,
	thurs: 4
};
const shortMonths: Readonly<Record<string, number>> = { sept: 9 };

/** What reading stops with: what was not understood, or cannot be. */
export class NotRead extends Error {}

/** Reads words one after another; every `take` leaves the place where it was if it does not fit. */
export class Said {
	readonly #words: readonly Word[];
	at = 0;

	constructor(readonly text: string) {
		const words: Word[] = [];
		for (const found of text.matchAll(wordPattern)) {
			const raw = found[0];
			const from = found.index;
			words.push({
				text: raw
					.toLowerCase()
					.replace(/^(\p{L}+(?:\.\p{L})*)\.$/u, '$1')
					.replace(/^([ap])\.m$/, '$1m'),
				from,
				to: from + raw.length,
				close: words.at(-1)?.to === from
			});
		}
		this.#words = words;
	}

	get done(): boolean {
		return this.at >= this.#words.length;
	}
	/** The next word, or an empty one at the end. */
	get next(): string {
		return this.#words[this.at]?.text ?? '';
	}
	/** Whether the next word follows the one before without a space. */
	get close(): boolean {
		return this.#words[this.at]?.close ?? false;
	}
	/** What has not been taken, as it was written. */
	get rest(): string {
		const word = this.#words[this.at];
		return word ? this.text.slice(word.from).trim() : '';
	}
	/** What has been taken since a place, as it was written. */
	since(start: number): string {
		const [first, last] = [this.#words[start], this.#words[this.at - 1]];
		return first && last ? this.text.slice(first.from, last.to) : '';
	}

	/** Takes these words in a row, or none of them. */
	take(...words: readonly string[]): boolean {
		if (!words.every((w, i) => this.#words[this.at + i]?.text === w)) return false;
		this.at += words.length;
		return true;
	}
	/** Takes the first of several words or phrases that stands next. */
	takeAny(...phrases: readonly string[]): string | null {
		for (const phrase of phrases) if (this.take(...phrase.split(' '))) return phrase;
		return null;
	}
	/** Tries a way of reading; goes back where it gives null. */
	try<T>(read: () => T | null): T | null {
		const before = this.at;
		const value = read();
		if (value === null) this.at = before;
		return value;
	}

	/** One or more of the same, with a joint between each: "a, b and c", "a/b"; null where not even one stands next. */
	list<T>(item: () => T | null): T[] | null {
		const first = this.try(item);
		if (first === null) return null;
		const list = [first];
		for (;;) {
			const next = this.try(() => {
				if (this.takeAny(', and', 'and', ',', '/', '+') === null) return null;
				return item();
			});
			if (next === null) return list;
			list.push(next);
		}
	}

	/** A number in figures, of so many digits at most. */
	figures(mostDigits = 4): number | null {
		const { next } = this;
		if (!/^\d+$/.test(next) || next.length > mostDigits) return null;
		this.at += 1;
		return Number(next);
	}
	/** A number in figures, or in words up to twelve. */
	number(): number | null {
		const inWords = small.indexOf(this.next);
		if (inWords > 0) {
			this.at += 1;
			return inWords;
		}
		return this.figures(3);
	}
	/** "first", "2nd", "last", "second to last": from the end it is below zero. */
	ordinal(): number | null {
		return this.try(() => {
			if (this.take('last')) return -1;
			const inWords = ordinals.indexOf(this.next);
			if (inWords > 0) {
				this.at += 1;
				if (this.takeAny('to last', 'to the last', 'last', '- to - last')) return -inWords;
				return inWords;
			}
			const n = this.figures(2);
			if (n === null || !this.close) return null;
			return this.takeAny('st', 'nd', 'rd', 'th') === null ? null : n;
		});
	}

	/** A weekday, 1 for Monday to 7 for Sunday; "mondays" as well. */
	weekday(): number | null {
		const word = this.next;
		const found =
			shortWeekdays[word] ??
			weekdayNames.findIndex(
				(name) => word === name || word === `${name}s` || word === name.slice(0, 3)
			) + 1;
		if (found < 1) return null;
		this.at += 1;
		return found;
	}
	/** A month, 1 to 12. */
	month(): number | null {
		const word = this.next;
		const found =
			shortMonths[word] ??
			monthNames.findIndex((name) => word === name || word === name.slice(0, 3)) + 1;
		if (found < 1) return null;
		this.at += 1;
		return found;
	}
}

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

/** A time of day as it was said; with `half` null it does not say which half of the day. */
export interface SaidTime {
	readonly hour: number;
	readonly minute: number;
	/** Null where neither am nor pm was said and the figure does not tell either. */
	readonly half: 'am' | 'pm' | 'told' | null;
	/** Whether minutes were said: "7:20" is read by the clock as it stands, "at 7" is not. */
	readonly minutesSaid: boolean;
	/** Said as "midnight": of a day it may be its beginning or its end. */
	readonly midnight?: boolean;
}

/** "2:15pm", "2 pm", "14:15", "noon", "midnight", "at 7", "7 o'clock". Null where none stands next. */
export function takeTime(said: Said): SaidTime | null {
	return said.try(() => {
		const at = said.take('at') || said.take('@');
		if (said.takeAny('noon', 'midday'))
			return { hour: 12, minute: 0, half: 'told', minutesSaid: true };
		if (said.take('midnight'))
			return { hour: 0, minute: 0, half: 'told', minutesSaid: true, midnight: true };
		const start = said.at;
		const digits = said.next;
		const hour = said.figures(2);
		if (hour === null) return null;
		let minute = 0;
		let minutesSaid = false;
		const parted = said.takeAny(':', '.');
		if (parted !== null) {
			if (said.next.length !== 2) return null;
			const m = said.figures(2);
			if (m === null || m > 59) return null;
			minute = m;
			minutesSaid = true;
		}
		const half = said.takeAny('am', 'pm', 'a', 'p');
		// "7.30" may be a date; only with am or pm it is a time.
		if (parted === '.' && half === null) return null;
		if (half !== null) {
			if (hour < 1 || hour > 12) return null;
			return {
				hour: (hour % 12) + (half.startsWith('p') ? 12 : 0),
				minute,
				half: half.startsWith('p') ? 'pm' : 'am',
				minutesSaid: true
			};
		}
		const oclock = said.takeAny("o ' clock", 'o ’ clock', 'oclock', 'h');
		if (hour > 23) return null;
		// "07:20", "14:15" and "0:30" tell themselves.
		const told =
			hour === 0 || hour > 12 || (minutesSaid && digits.length === 2 && digits[0] === '0');
		// A bare figure is an hour only where something says so, or where it stands alone.
		if (!minutesSaid && !at && oclock === null && !(start === 0 || said.done)) return null;
		return { hour, minute, half: told ? 'told' : null, minutesSaid };
	});
}

/** A time of day by itself, "14:15", from what was typed: "2:15 pm", "14:15", "noon"; null for what is none. A bare figure is none. */
export function readClock(text: string): string | null {
	const said = new Said(text.trim());
	const time = takeTime(said);
	if (!time || !said.done || !(time.minutesSaid || time.half !== null)) return null;
	return `${String(time.hour).padStart(2, '0')}:${String(time.minute).padStart(2, '0')}`;
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
