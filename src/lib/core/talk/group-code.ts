import { textCommand } from './keyword';

/** Codes that are given: no vowels, so that none is a word by accident, and one only of what looks alike. */
const letters = 'CDFGHJKMNPQRTVWX34679';
const givenLength = 6;
const shortest = 4;
const longest = 12;

/** What looks alike on paper, on a screen and in handwriting is one sign. */
const alike: Readonly<Record<string, string>> = { O: '0', I: '1', L: '1', Z: '2', S: '5', B: '8' };

/** What people answer to many a question: as a code it would bring them into a group by accident. */
const everyday = new Set([
	...['okay', 'yeah', 'sure', 'none', 'nope', 'done', 'good', 'fine', 'hello', 'thanks'],
	...['thankyou', 'please', 'sorry', 'what', 'when', 'where', 'gracias', 'hola', 'obrigado', 'join']
]);

/** A code without what is only typed around it, in capitals. */
const bare = (text: string): string =>
	text
		.normalize('NFKC')
		.toUpperCase()
		.replace(/[\s\-–—_.,!?"'“”‘’#*]/g, '');

/** What a code is found by: the same for codes that look alike. */
export const codeKey = (code: string): string =>
	[...bare(code)].map((sign) => alike[sign] ?? sign).join('');

/** A code as somebody chooses it, in capitals; or why it can be none. */
export function readCode(
	typed: string
): { readonly ok: true; readonly code: string } | { readonly ok: false; readonly why: string } {
	const code = bare(typed);
	const no = (why: string) => ({ ok: false, why }) as const;
	if (!/^[A-Z0-9]+$/.test(code))
		return no('A code is made of the letters A to Z and of digits: other signs are hard to type.');
	if (code.length < shortest || code.length > longest)
		return no(
			`A code has ${shortest} to ${longest} letters and digits; this one has ${code.length}.`
		);
	if (!/[A-Z]/.test(code))
		return no('A code of digits alone is taken for a number. Put a letter into it.');
	if (textCommand(code) !== null || everyday.has(code.toLowerCase()))
		return no(`“${code}” is what people answer to other things. Choose another code.`);
	return { ok: true, code };
}

/** A code that nobody chose. `pick` gives a whole number from 0 up to, and not with, its argument. */
export const newCode = (pick: (below: number) => number): string =>
	Array.from({ length: givenLength }, () => letters[pick(letters.length)]!).join('');

/** The key of the code that a text may be: the code alone, or after "join"; null where it is a sentence. */
export function codeInText(text: string): string | null {
	const words = text.normalize('NFKC').trim().split(/\s+/);
	const said = words.length === 2 && /^join\b/i.test(words[0]!) ? words[1]! : text.trim();
	if (said.split(/\s+/).length > 2) return null;
	const read = readCode(said);
	return read.ok ? codeKey(read.code) : null;
}
