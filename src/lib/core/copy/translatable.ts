import { mapDoc, type Doc, type Inline } from './doc';
import { fieldTag } from './template';
import type { LetterWords, OwnText, Words } from './words';

/**
 * Words as a list of plain strings for a translation service, and back. A string is one heading,
 * paragraph or list item. Marks and fields stand in it as numbered tags, `<1>bold</1>` and `<2/>`,
 * which a service leaves as they are: translation tags of the kind of XLIFF 2.1 (`<pc>`, `<ph>`,
 * sections 4.2.3.1 and 4.2.3.3), in a shorter form.
 */
export interface Translatable {
	readonly texts: readonly string[];
	/** The same words with other strings in the place of these; or why the strings do not fit. */
	rebuild(
		translated: readonly string[]
	): { readonly ok: true; readonly words: Words } | { readonly ok: false; readonly why: string };
}

class Mismatch extends Error {}

const escapeTags = (text: string): string => text.replace(/&/g, '&amp;').replace(/</g, '&lt;');
const unescapeTags = (text: string): string =>
	text
		.replace(/&lt;/g, '<')
		.replace(/&gt;/g, '>')
		.replace(/&quot;/g, '"')
		.replace(/&amp;/g, '&');

/** Runs as one string with numbered tags; each run that is marked, and each break and field, has a number. */
function taggedText(content: readonly Inline[]): string {
	return content
		.map((inline, i) => {
			if (inline.type !== 'text') return `<${i + 1}/>`;
			const text = escapeTags(inline.text).replace(/\{\{[^}]*\}\}/g, (field) => `<f>${field}</f>`);
			return inline.marks?.length ? `<${i + 1}>${text}</${i + 1}>` : text;
		})
		.join('');
}

/** The runs of a translated string: each tag gets its marks or its field again, in whatever order they stand now. */
function runsOf(text: string, before: readonly Inline[]): Inline[] {
	const runs: Inline[] = [];
	const used = new Set<number>();
	const bare = text.replace(/<\/?f>/g, '');
	const pattern = /<(\d+)\/>|<(\d+)>([^<]*)<\/\2>|([^<]+)|(<)/g;
	for (const [, atom, marked, inner, plain, stray] of bare.matchAll(pattern)) {
		if (stray) throw new Mismatch('a tag is broken');
		if (plain !== undefined) {
			runs.push({ type: 'text', text: unescapeTags(plain) });
			continue;
		}
		const number = Number(atom ?? marked);
		const original = before[number - 1];
		if (!original || used.has(number)) throw new Mismatch(`tag ${number} is not one of ours`);
		used.add(number);
		if (atom !== undefined) {
			if (original.type === 'text') throw new Mismatch(`tag ${number} lost its words`);
			runs.push(original);
		} else if (original.type !== 'text') throw new Mismatch(`tag ${number} got words`);
		else if (inner !== '') runs.push({ ...original, text: unescapeTags(inner!) });
	}
	const missing = before.findIndex((inline, i) => inline.type === 'field' && !used.has(i + 1));
	if (missing >= 0) throw new Mismatch('a field is missing');
	return runs;
}

/** Walks the words with a text for each place: the same walk takes the texts out and puts others in. */
function walkWords(words: Words, take: (content: readonly Inline[]) => readonly Inline[]): Words {
	const plain = (text: string): string => {
		if (text.trim() === '') return text;
		return take([{ type: 'text', text }])
			.map((i) =>
				i.type === 'text'
					? i.text
					: i.type === 'field'
						? fieldTag(i.attrs.name, i.attrs.fallback)
						: '\n'
			)
			.join('');
	};
	const said = (runs: readonly Inline[]) =>
		runs.some((i) => i.type !== 'text' || i.text.trim() !== '') ? take(runs) : runs;
	const doc = (d: Doc): Doc => mapDoc(d, said, plain);
	const letter = (l: LetterWords): LetterWords => ({
		subject: plain(l.subject),
		body: doc(l.body)
	});
	const text = (t: OwnText): OwnText => ({ ...t, text: plain(t.text) });
	const { email, inbox, text: own } = words.own;
	return {
		...letter(words),
		own: {
			...(email ? { email: letter(email) } : {}),
			...(inbox ? { inbox: letter(inbox) } : {}),
			...(own ? { text: text(own) } : {})
		}
	};
}

/** Takes the strings out of words. */
export function translatable(words: Words): Translatable {
	const texts: string[] = [];
	walkWords(words, (content) => {
		texts.push(taggedText(content));
		return content;
	});
	return {
		texts,
		rebuild(translated) {
			if (translated.length !== texts.length) {
				return { ok: false, why: `it gave ${translated.length} texts for ${texts.length}` };
			}
			let next = 0;
			try {
				const made = walkWords(words, (content) => {
					const text = translated[next]!;
					next += 1;
					if (text.trim() === '') throw new Mismatch('a text came back empty');
					return runsOf(text, content);
				});
				return { ok: true, words: made };
			} catch (error) {
				if (error instanceof Mismatch) return { ok: false, why: error.message };
				throw error;
			}
		}
	};
}
