import ICAL from 'ical.js';
import { foldLine } from './fold-lines';

/** A person as a vCard. */
export interface Card {
	readonly uid: string;
	readonly givenName: string;
	readonly familyName: string;
	readonly emails: readonly string[];
	/** E.164. */
	readonly phones: readonly string[];
	/** BCP 47 tag. */
	readonly language: string;
	readonly note: string;
}

/** Writes cards as one vCard 4.0 stream (RFC 6350). */
export const writeVcards = (cards: readonly Card[]): string =>
	cards
		.flatMap((card) => ['BEGIN:VCARD', ...properties(card), 'END:VCARD'])
		.map((line) => `${foldLine(line)}\r\n`)
		.join('');

function properties(card: Card): string[] {
	const line = (
		name: string,
		value: string | readonly string[],
		type = 'text',
		parameters: Readonly<Record<string, string>> = {}
	) => ICAL.stringify.property([name, parameters, type, value], ICAL.design.vcard, true);
	return [
		line('version', '4.0'),
		// A UID is a URI unless it says that it is text (section 6.7.6).
		line('uid', card.uid, 'text', { value: 'text' }),
		line('fn', `${card.givenName} ${card.familyName}`.trim()),
		line('n', [card.familyName, card.givenName, '', '', '']),
		...card.emails.map((email) => line('email', email)),
		...card.phones.map((phone) => line('tel', `tel:${phone}`, 'uri', { value: 'uri' })),
		line('lang', card.language, 'language-tag'),
		...(card.note ? [line('note', card.note)] : [])
	];
}
