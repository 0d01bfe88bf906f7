import { bodyHtml } from './html';
import type { LetterWords, Variant, Wording, Words } from './words';

const letterMark = ({ subject, body }: LetterWords): string =>
	`${subject}\n${bodyHtml(body, 'ltr', (id) => `#${id}`)}`;

/** The same for words that say and show the same, however they were stored. */
export function wordsMark(words: Words): string {
	const { email, inbox, text } = words.own;
	return JSON.stringify([
		letterMark(words),
		email ? letterMark(email) : null,
		inbox ? letterMark(inbox) : null,
		text ? [text.text, text.link] : null
	]);
}

/** Whether a variant was made from other words than the original has now. */
export const isOutOfDate = (wording: Wording, variant: Variant): boolean =>
	wordsMark(variant.basis) !== wordsMark(wording.words);
