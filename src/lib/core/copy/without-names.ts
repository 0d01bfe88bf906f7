import { mapDoc, type Doc, type Inline } from './doc';
import type { LetterWords, Words, Wording } from './words';

/** A name as names are compared: without accents, in small letters, its parts one space apart. */
export const plainName = (name: string): string =>
	name
		.normalize('NFKD')
		.replace(/\p{M}/gu, '')
		.toLowerCase()
		.replace(/[’']/g, "'")
		.trim()
		.split(/\s+/)
		.join(' ');

/** Whether a name, as {@link plainName} has it, is somebody's whose name must not be read. */
export type IsName = (name: string) => boolean;

/** A stretch of a text, and what stands in its place. */
interface Cut {
	readonly from: number;
	readonly to: number;
	readonly words: string;
}

const word = /[\p{L}\p{M}][\p{L}\p{M}.'’-]*/gu;
/** As many words as a whole name is taken to have. */
const longest = 6;

/** A word without what belongs to the sentence: "Souza’s" is Souza, "Souza." too. */
const bare = (text: string): string => text.replace(/['’]s$/u, '').replace(/[.'’-]+$/u, '');

const initials = (words: readonly string[]): string =>
	words.map((w) => `${[...w][0]!.toUpperCase()}.`).join(' ');

/** Where whole names of people stand in a text: given and family name beside each other, or the other way with a comma between. */
function namesIn(text: string, isName: IsName): Cut[] {
	const words = [...text.matchAll(word)].map((m) => ({ at: m.index, text: m[0] }));
	const cuts: Cut[] = [];
	for (let first = 0; first < words.length; first += 1) {
		for (let last = Math.min(words.length, first + longest) - 1; last > first; last -= 1) {
			const found = wholeName(text, words.slice(first, last + 1), isName);
			if (!found) continue;
			cuts.push(found);
			first = last;
			break;
		}
	}
	return cuts;
}

function wholeName(
	text: string,
	words: readonly { readonly at: number; readonly text: string }[],
	isName: IsName
): Cut | null {
	let comma = -1;
	for (let i = 1; i < words.length; i += 1) {
		const between = text.slice(words[i - 1]!.at + words[i - 1]!.text.length, words[i]!.at);
		if (/^\s+$/u.test(between)) continue;
		if (comma >= 0 || !/^,\s*$/u.test(between)) return null;
		comma = i;
	}
	const parts = words.map((w, i) => (i === words.length - 1 ? bare(w.text) : w.text));
	const order = comma < 0 ? parts : [...parts.slice(comma), ...parts.slice(0, comma)];
	if (parts.at(-1) === '' || !isName(plainName(order.map(bare).join(' ')))) return null;
	const last = words.at(-1)!;
	const to = last.at + parts.at(-1)!.length;
	// The stop of the last initial ends the sentence as well.
	return { from: words[0]!.at, to: text[to] === '.' ? to + 1 : to, words: initials(order) };
}

/** A text with initials in the place of whole names: "Ana Souza" becomes "A. S.". */
export function textWithoutNames(text: string, isName: IsName): string {
	let done = '';
	let at = 0;
	for (const { from, to, words } of namesIn(text, isName)) {
		done += text.slice(at, from) + words;
		at = to;
	}
	return done + text.slice(at);
}

/** The name of a file the same way, where what parts words may be signs: "Ana_Souza.pdf" becomes "A. S..pdf". A name without names stays as it is. */
export function fileNameWithoutNames(name: string, isName: IsName): string {
	const dot = name.lastIndexOf('.');
	const end = dot > 0 ? name.slice(dot) : '';
	const said = name.slice(0, name.length - end.length).replace(/[_\-.]+/g, ' ');
	const shown = textWithoutNames(said, isName);
	return shown === said ? name : shown + end;
}

/** The runs of a paragraph the same way; a name may begin in one run and end in another, as where half of it is bold. */
function runsWithoutNames(runs: readonly Inline[], isName: IsName): Inline[] {
	const texts = runs.map((r) =>
		r.type === 'text' ? r.text : r.type === 'hardBreak' ? '\n' : '\uFFFC'
	);
	const cuts = namesIn(texts.join(''), isName);
	let at = 0;
	return runs.flatMap((run, i): Inline[] => {
		const [begin, end] = [at, at + texts[i]!.length];
		at = end;
		if (run.type === 'field')
			return [
				{ ...run, attrs: { ...run.attrs, fallback: textWithoutNames(run.attrs.fallback, isName) } }
			];
		if (run.type === 'hardBreak')
			return cuts.some((c) => c.from < begin && begin < c.to) ? [] : [run];
		let words = '';
		let from = begin;
		for (const cut of cuts) {
			if (cut.to <= begin || cut.from >= end) continue;
			words += texts[i]!.slice(from - begin, Math.max(from, cut.from) - begin);
			// It stands where the name begins.
			if (cut.from >= begin) words += cut.words;
			from = Math.min(cut.to, end);
		}
		words += texts[i]!.slice(from - begin);
		return words === '' ? [] : [{ ...run, text: words }];
	});
}

const docWithoutNames = (doc: Doc, isName: IsName): Doc =>
	mapDoc(
		doc,
		(runs) => runsWithoutNames(runs, isName),
		(alt) => textWithoutNames(alt, isName)
	);

const letterWithoutNames = ({ subject, body }: LetterWords, isName: IsName): LetterWords => ({
	subject: textWithoutNames(subject, isName),
	body: docWithoutNames(body, isName)
});

/** A wording as it may be read by anybody: with initials in the place of the names of people, in every language. Only what stands on a page is kept. */
export function wordingWithoutNames(wording: Wording, isName: IsName): Wording {
	const words = (of: Words): Words => ({
		...letterWithoutNames(of.own.inbox ?? of, isName),
		own: {}
	});
	return {
		language: wording.language,
		words: words(wording.words),
		variants: wording.variants.map((v) => ({ ...v, words: words(v.words), basis: words(v.words) }))
	};
}
