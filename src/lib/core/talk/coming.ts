import { likenessOf } from './alike';
import { mostTogether } from './invitation';

/** An answer to "coming?". */
export interface Coming {
	readonly comes: boolean;
	/** How many; null where nobody says. */
	readonly people: number | null;
}

/** The first digits of the scripts that families here write numbers in: Arabic, and as in Persian and Urdu. */
const zeros = [0x0660, 0x06f0];

/** Digits of other scripts as those of ours. */
const ownDigits = (text: string): string =>
	text.replace(/\p{Nd}/gu, (digit) => {
		const code = digit.codePointAt(0)!;
		const zero = zeros.find((z) => code >= z && code < z + 10);
		return zero === undefined ? digit : String(code - zero);
	});

/**
 * What a text answers to an invitation: "yes 2", "no", "sí, 3", "نعم ٢". Null where it says anything beside it, which
 * a person has to read: two numbers, a question, "yes, but late". `names` are those that add nothing.
 */
export function readComing(text: string, names: readonly string[] = []): Coming | null {
	const own = ownDigits(text.normalize('NFKC'));
	const numbers = own.match(/\d+/g) ?? [];
	// "yes2" and "2x" are no words of anybody's, and a point or a stroke makes another number of it.
	const clear = /^\D*$|^[^\d]*(?<![\p{L}.,:/-])\d{1,2}(?![\p{L}.:/-]|,\d)[^\d]*$/u.test(own);
	if (numbers.length > 1 || !clear) return null;
	const says = likenessOf(own.replace(/\d+/g, ' '), names);
	if (says !== 'yes' && says !== 'no') return null;
	const people = numbers.length === 1 ? Number(numbers[0]) : null;
	if (says === 'no') return people === null || people === 0 ? { comes: false, people: null } : null;
	return people === null || (people >= 1 && people <= mostTogether)
		? { comes: true, people }
		: null;
}
