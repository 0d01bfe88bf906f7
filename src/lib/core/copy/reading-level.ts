import { fleschKincaid } from 'flesch-kincaid';
import { syllable } from 'syllable';

/** Fewer words say nothing about how hard a wording is to read. */
const fewestWords = 40;
/** The grade above which a hint is given; common advice for letters to families is grade 8 or below. */
export const hardGrade = 9;

/** The Flesch-Kincaid grade level (Kincaid, Fishburne, Rogers and Chissom 1975): 0.39 words per sentence + 11.8 syllables per word - 15.59, to one decimal. */
export const gradeOf = (sentences: number, words: number, syllables: number): number =>
	Math.round(fleschKincaid({ sentence: sentences, word: words, syllable: syllables }) * 10) / 10;

/** The school grade whose readers follow an English text; null where there are too few words to say. */
export function readingGrade(text: string): number | null {
	const plain = text.replace(/https?:\S+/g, ' ');
	const words = plain.match(/[\p{L}\p{N}][\p{L}\p{N}'’-]*/gu) ?? [];
	if (words.length < fewestWords) return null;
	// A heading or list item without a stop is a sentence of its own.
	const sentences = plain
		.split(/[.!?:]+(?=\s|$)|\n+/)
		.filter((s) => /[\p{L}\p{N}]/u.test(s)).length;
	const syllables = words.reduce((sum, w) => sum + Math.max(1, syllable(w)), 0);
	return Math.max(0, gradeOf(Math.max(1, sentences), words.length, syllables));
}
