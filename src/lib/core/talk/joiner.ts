/** Who says that they join, and the student they say they are there for; empty where they name none. */
export interface Joiner {
	readonly name: string;
	readonly student: string;
}

const mostLetters = 80;
const mostWords = 6;
/** Letters of any script with what names have between them (common practice). */
const nameShape = /^[\p{L}\p{M}][\p{L}\p{M}'’.\-\s]*$/u;

const isName = (text: string): boolean =>
	text.length <= mostLetters && nameShape.test(text) && text.split(' ').length <= mostWords;

/** A name without blanks around and within it that nobody sees. */
const tidy = (text: string): string => text.normalize('NFC').replace(/\s+/g, ' ').trim();

/**
 * Reads "Ana Pires" or "Ana Pires, Tomas Pires" as somebody answers it on a phone: the name, and after a
 * comma or on a line of its own that of a student. Null for what is no name: a question, a number, a sentence.
 */
export function readJoiner(text: string): Joiner | null {
	const [first = '', ...others] = text.split(/[,;،\n]/).map(tidy);
	const said = others.filter((part) => part !== '');
	if (!isName(first) || said.length > 1) return null;
	const student = said[0] ?? '';
	return student === '' || isName(student) ? { name: first, student } : null;
}

/** A name as it is kept of a person: what stands last is the family's. */
export function nameParts(name: string): {
	readonly givenName: string;
	readonly familyName: string;
} {
	const words = tidy(name).split(' ');
	return words.length === 1
		? { givenName: words[0]!, familyName: '' }
		: { givenName: words.slice(0, -1).join(' '), familyName: words.at(-1)! };
}
