import { readVcards, type CardIn, type ReadCard } from '../../../core/format/read-vcard';
import { decodeTable } from '../../../core/format/table-text';
import { listFields } from '../../../core/roster/list/fields';
import { Broken } from './broken';
import type { ListTable } from './list';
import type { TableRow } from './rows';

/** More cards than any address book has. */
const mostCards = 100_000;

/** Reads a file of cards. Ends with Broken where it holds none. */
export function readCards(octets: Uint8Array, name: string): ReadCard[] {
	const read = decodeTable(octets);
	if (!read) throw new Broken(`“${name}” is no text: it cannot be cards (vCard). Save it anew.`);
	const cards = readVcards(read.text);
	if (cards.length === 0)
		throw new Broken(
			`“${name}” holds no card: none begins in it (BEGIN:VCARD). Export the contacts as vCard 3.0 or 4.0.`
		);
	if (cards.length > mostCards) throw new Broken(`“${name}” has over ${mostCards} cards.`);
	return cards;
}

const heading = (
	['number', 'givenName', 'familyName', 'email', 'sms', 'phone', 'language', 'studentName'] as const
).map((field) => listFields[field]);

/** A card as lines of a contact list: one for each student it names, or one that names none. */
const linesOf = (card: CardIn, line: number): TableRow[] =>
	(card.children.length > 0 ? card.children : ['']).map((student) => ({
		line,
		cells: [
			...[card.uid, card.givenName, card.familyName, card.emails[0] ?? ''],
			card.phones.find((p) => p.type === 'text')?.number ?? '',
			card.phones.find((p) => p.type === 'voice')?.number ?? '',
			...[card.language, student]
		]
	}));

/** Cards as a contact list in our own headings. */
export function cardTable(
	octets: Uint8Array,
	name: string
): Pick<ListTable, 'written' | 'heading' | 'rows' | 'unusable'> {
	const cards = readCards(octets, name);
	return {
		...{ written: 'vCard', heading },
		rows: cards.flatMap(({ card, line, name: said }) =>
			card ? linesOf(card, line) : [{ line, cells: heading.map((_, i) => (i === 2 ? said : '')) }]
		),
		unusable: new Map(
			cards.flatMap(({ card, line, name: said, why }) =>
				card ? [] : [[line, { name: said, why }]]
			)
		)
	};
}
