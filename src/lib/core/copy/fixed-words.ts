import { boardWords } from './board-phrases';
import { choiceWords } from './choice-phrases';
import { comingWords } from './coming-phrases';
import { digestWords } from './digest-phrases';
import { pageWords } from './family-phrases';
import { guestWords } from './guest-phrases';
import { joinWords } from './join-phrases';
import { linkPhrases } from './link-phrases';
import { noteWords } from './note-phrases';
import { aroundLetters } from './phrases';
import { sheetWords } from './sheet-phrases';
import { talkWords } from './talk-phrases';

/** Every catalogue of fixed words, by where they stand. */
const catalogues: readonly (readonly [place: string, words: Readonly<Record<string, object>>])[] = [
	['Around letters, and in the inbox', aroundLetters],
	['Beside a recorded note', noteWords],
	['On a family’s page', pageWords],
	['On boards', boardWords],
	['Where somebody is invited', comingWords],
	['Where anybody may answer an invitation', guestWords],
	['On the page of what a family gets', choiceWords],
	['Said by itself to whoever answers', talkWords],
	['Around a daily letter', digestWords],
	['Where somebody joins a group', joinWords],
	['On the sheet about joining', sheetWords],
	['Where a family asks for its link', linkPhrases]
];

/** The languages that there are fixed words in, English first. */
export const wordLanguages: readonly string[] = Object.keys(aroundLetters);

/** One phrase in a language, beside the English. */
export interface FixedWord {
	readonly key: string;
	readonly english: string;
	readonly words: string;
}

/** The phrases of a catalogue by their keys, one level after another: "faults.noName". */
const flat = (words: object, before = ''): (readonly [key: string, words: string])[] =>
	Object.entries(words).flatMap(([key, value]) =>
		typeof value === 'string'
			? [[before + key, value] as const]
			: typeof value === 'object' && value !== null
				? flat(value as object, `${before}${key}.`)
				: []
	);

/** All fixed words in a language, by where they stand, each beside the English; nothing of a language that has none. */
export const fixedWords = (
	tag: string
): readonly { readonly place: string; readonly words: readonly FixedWord[] }[] =>
	catalogues.flatMap(([place, catalogue]) => {
		const own = catalogue[tag];
		if (!own) return [];
		const english = new Map(flat(catalogue.en!));
		return [
			{
				place,
				words: flat(own).map(([key, words]) => ({ key, words, english: english.get(key) ?? '' }))
			}
		];
	});
