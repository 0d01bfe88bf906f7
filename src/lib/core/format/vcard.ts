import ICAL from 'ical.js';
import { foldLine } from './fold-lines';

/** A person as a vCard. */
export interface Card {
	readonly uid: string;
	readonly givenName: string;
	readonly familyName: string;
	readonly emails: readonly string[];
	/** E.164, and whether texts may go there (TEL types, section 6.4.1). */
	readonly phones: readonly { readonly number: string; readonly type: 'text' | 'voice' }[];
	/** BCP 47 tag. */
	readonly language: string;
	readonly note: string;
	/** Names of those whom they look after (RELATED, section 6.6.6). */
	readonly children?: readonly string[];
	/** What they belong to (CATEGORIES, section 6.7.1). */
	readonly categories?: readonly string[];
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
		...card.phones.map(({ number, type }) =>
			line('tel', `tel:${number}`, 'uri', { value: 'uri', type })
		),
		line('lang', card.language, 'language-tag'),
		...(card.children ?? []).map((name) =>
			// That it is text is said by the writer: what is related is a URI by itself.
			line('related', name, 'text', { type: 'child' })
		),
		...(card.categories ?? []).map((name) => line('categories', name)),
		...(card.note ? [line('note', card.note)] : [])
	];
}
