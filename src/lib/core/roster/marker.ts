import { readDay, readYes, type DateOrder } from './list/values';

/** What a marker says of a student: that something is so, a day, or a few words. */
export type MarkerKind = 'yes-no' | 'date' | 'text';

export const markerKinds: Readonly<Record<MarkerKind, string>> = {
	'yes-no': 'yes or no',
	date: 'a day',
	text: 'a few words'
};

/** Words of a marker at most, characters. */
export const mostMarkCharacters = 120;

/** What a cell says of a student: a value ("yes", an ISO date, words), that they lack the marker (null), or why it is neither. */
export type ReadMark =
	| { readonly ok: true; readonly value: string | null }
	| { readonly ok: false; readonly why: string };

// Control characters and marks that turn the direction of what follows.
const unseen = /[\p{Cc}\u202a-\u202e\u2066-\u2069]/u;

/** Reads what a list or a form says of a student. An empty cell and a no say that they lack it. */
export function readMark(kind: MarkerKind, text: string, order: DateOrder): ReadMark {
	const said = text.trim().replace(/\s+/g, ' ');
	if (said === '') return { ok: true, value: null };
	switch (kind) {
		case 'yes-no': {
			const yes = readYes(said);
			return yes === undefined
				? { ok: false, why: `“${said.slice(0, 60)}” is neither a yes nor a no.` }
				: { ok: true, value: yes ? 'yes' : null };
		}
		case 'date': {
			const day = readDay(said, order);
			return day === undefined
				? { ok: false, why: `“${said.slice(0, 60)}” is no day. Write it like 2027-03-12.` }
				: { ok: true, value: day };
		}
		case 'text':
			if (unseen.test(said))
				return { ok: false, why: 'The words hold a character that cannot be seen.' };
			return [...said].length > mostMarkCharacters
				? { ok: false, why: `The words are over ${mostMarkCharacters} characters. Shorten them.` }
				: { ok: true, value: said };
	}
}

/** What is asked of a student's marker. */
export type MarkTest =
	| { readonly test: 'has' | 'lacks' }
	| { readonly test: 'is'; readonly value: string }
	/** A day before another, or from it on (ISO dates). */
	| { readonly test: 'before' | 'from'; readonly day: string };

const same = (a: string, b: string) => a.toLocaleLowerCase('en') === b.toLocaleLowerCase('en');

/** Whether a student's value (null where they lack the marker) is as asked. */
export function markHolds(asked: MarkTest, value: string | null): boolean {
	switch (asked.test) {
		case 'has':
			return value !== null;
		case 'lacks':
			return value === null;
		case 'is':
			return value !== null && same(value, asked.value);
		case 'before':
			return value !== null && value < asked.day;
		case 'from':
			return value !== null && value >= asked.day;
	}
}

/** What a list comes to for one student. */
export type MarkStep =
	/** The list says it, and it is put down so. */
	| 'set'
	/** It is so already. */
	| 'same'
	/** A hand has set it otherwise, and the list has not changed its mind since: the hand's stays. */
	| 'stays';

/**
 * What a list does to a student's marker. A value set by hand stays until the list itself says
 * something else than it said before.
 */
export function markStep(
	here: {
		readonly value: string | null;
		readonly byHand: boolean;
		/** What the list said last; null where it said that they lack it, or nothing. */
		readonly listed: string | null;
	} | null,
	said: string | null
): MarkStep {
	if (here === null) return said === null ? 'same' : 'set';
	if (here.value === said) return 'same';
	return here.byHand && here.listed === said ? 'stays' : 'set';
}
