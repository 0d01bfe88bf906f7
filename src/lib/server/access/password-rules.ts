import { dictionary } from '@zxcvbn-ts/language-common';

/** NIST SP 800-63B-4 section 3.1.1.2: a password that opens by itself has 15 characters or more; 64 must be taken, and nothing else is asked of its make. */
export const passwordLength = { least: 15, most: 200 } as const;

let known: ReadonlySet<string> | undefined;
/** Passwords that are tried first since many have them; the list ships with us. */
const common = (): ReadonlySet<string> =>
	(known ??= new Set((dictionary['passwords-common'] as readonly string[] | undefined) ?? []));

/** Characters as people count them: a letter with its accent is one. */
const lengthOf = (text: string): number => [...new Intl.Segmenter().segment(text)].length;

/** As it is hashed and compared: the same password typed on another machine is the same (NIST SP 800-63B-4 section 3.1.1.2 asks for NFC or NFKC). */
export const asTyped = (password: string): string => password.normalize('NFKC');

/** The shortest piece of which a text is made by repeating it. */
function pieceOf(text: string): string {
	for (let n = 1; n <= text.length / 2; n += 1)
		if (text.length % n === 0 && text.slice(0, n).repeat(text.length / n) === text)
			return text.slice(0, n);
	return text;
}

/** Whether each sign follows from the one before it by the same step: 123456, gfedcba, aaaa. */
function isRun(text: string): boolean {
	// After 9 comes 0.
	const turn = /^\d+$/.test(text) ? 10 : Infinity;
	const codes = [...text].map((c) => c.codePointAt(0)!);
	return [-1, 0, 1].some((step) =>
		codes.every((c, i) => i === 0 || [step, step - turn, step + turn].includes(c - codes[i - 1]!))
	);
}

/**
 * Why a password is not taken, in words; null where it is. Length counts, and that it is not what is guessed
 * first: a common one, also dressed up with figures at its end or said several times, a run, or the words that
 * stand around it (`about`: the user name, the person's names, the district's).
 */
export function passwordRefused(password: string, about: readonly string[]): string | null {
	const text = asTyped(password);
	const length = lengthOf(text);
	if (length < passwordLength.least)
		return `It has ${length} characters; ${passwordLength.least} are the least. A few words in a row are easy to keep in mind.`;
	if (text.length > passwordLength.most)
		return `It is over ${passwordLength.most} characters. Shorten it.`;
	const small = text.toLowerCase();
	const bare = small.replace(/[\s\d\p{P}\p{S}]+$/u, '').replace(/^[\s\d\p{P}\p{S}]+/u, '');
	const piece = pieceOf(small);
	const tried = [small, bare, piece, pieceOf(bare)];
	if (tried.some((t) => common().has(t)) || isRun(small) || piece.length < 4)
		return 'It is one that is tried first, or made of one. Choose other words.';
	const words = about
		.flatMap((a) => a.toLowerCase().split(/[^\p{L}\d]+/u))
		.filter((word) => word.length > 2);
	const rest = words
		.sort((a, b) => b.length - a.length)
		.reduce((left, word) => left.replaceAll(word, ''), small);
	if (rest !== small && rest.replace(/[\s\d\p{P}\p{S}]+/gu, '').length < 4)
		return 'It is made of names that stand around it: yours, the district’s or ours. Choose other words.';
	return null;
}
