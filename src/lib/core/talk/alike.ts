import { courtesies, likenesses, phrases, signs, type Likeness } from './alike-words';

/** Arabic letters that are written now one way, now another. */
const arabic = (text: string): string =>
	text
		.replace(/[أإآٱ]/g, 'ا')
		.replace(/ى/g, 'ي')
		.replace(/[\u064B-\u0652\u0640]/g, '');

/** Words without case, accents and whatever is no letter, digit or sign of {@link signs}. */
const bare = (text: string): string =>
	arabic(
		text
			.normalize('NFKD')
			.replace(/(?<=\p{Script=Latin})\p{M}+/gu, '')
			.normalize('NFC')
			.toLowerCase()
			.replace(/đ/g, 'd')
			.replace(/['’`]/g, '')
	)
		.replace(/\p{Emoji_Modifier}|\uFE0F|\u200D/gu, '')
		.replace(/(\p{Extended_Pictographic})/gu, ' $1 ')
		.replace(/[^\p{L}\p{M}\p{N}\p{Extended_Pictographic}]+/gu, ' ')
		.trim();

/** Phrases by their first word, the longest first, each with what it says; null for a courtesy. */
type Book = ReadonlyMap<
	string,
	readonly { readonly words: readonly string[]; readonly says: Likeness | null }[]
>;

const book: Book = (() => {
	const all = [
		...likenesses.flatMap((says) => phrases[says].map((phrase) => ({ phrase, says }))),
		...courtesies.map((phrase) => ({ phrase, says: null }))
	].map(({ phrase, says }) => ({ words: phrase.split(' '), says }));
	const byFirst = new Map<string, { words: string[]; says: Likeness | null }[]>();
	for (const entry of all) {
		const first = entry.words[0]!;
		byFirst.set(first, [...(byFirst.get(first) ?? []), entry]);
	}
	for (const entries of byFirst.values()) entries.sort((a, b) => b.words.length - a.words.length);
	return byFirst;
})();

/** Longer is no answer that is like others. */
const mostLetters = 120;

/** A word that stands for a name in {@link phrases}. */
const anyone = '*';

/**
 * What an answer says that others may say alike; null where a word of it adds something, or it says two
 * things. `names` are given names that add nothing: the students it is about, whoever writes, whoever is answered.
 */
export function likenessOf(text: string, names: readonly string[]): Likeness | null {
	if (text.length > mostLetters || /[?؟]/.test(text)) return null;
	const known = new Set(names.flatMap((name) => bare(name).split(' ')).filter((n) => n !== ''));
	const words = bare(text).split(' ').filter(Boolean);
	const said = new Set<Likeness>();
	let place = 0;
	while (place < words.length) {
		const word = words[place]!;
		const sign = signs[word];
		if (sign) {
			said.add(sign);
			place += 1;
			continue;
		}
		const fits = (entry: { readonly words: readonly string[] }) =>
			entry.words.every((w, i) => {
				const here = words[place + i];
				return here !== undefined && (w === anyone ? known.has(here) : w === here);
			});
		const found =
			(known.has(word) ? book.get(anyone)?.find(fits) : undefined) ?? book.get(word)?.find(fits);
		if (found) {
			if (found.says) said.add(found.says);
			place += found.words.length;
		} else if (known.has(word)) place += 1;
		else return null;
	}
	// "Yes, thank you" is a yes; "no, thank you" a no.
	if (said.size > 1) said.delete('seen');
	return said.size === 1 ? [...said][0]! : null;
}
