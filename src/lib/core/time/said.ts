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
