import type { Query } from '../db/open';
import { addressFits, readAddress, type Mailbox } from './tokens';

/** The row that an address of ours was made for. */
export interface Addressee {
	readonly mailbox: Mailbox;
	readonly id: number;
}

const tables: Readonly<Record<Mailbox, string>> = {
	return: 'delivery',
	answer: 'delivery',
	digest: 'digest',
	'digest-answer': 'digest',
	proof: 'proof',
	notice: 'notice',
	join: 'auto_note',
	staff: 'notice'
};

/** What an address of ours belongs to, or null where it is none of ours: of another form, of a row that is not there, or made for one that had its number before. */
export async function addresseeOf(
	db: Query,
	key: Buffer,
	address: string
): Promise<Addressee | null> {
	const read = readAddress(address);
	if (!read) return null;
	const row = await db.one<{ nonce: string }>(
		`SELECT nonce FROM ${tables[read.mailbox]} WHERE id = $id`,
		{ id: read.id }
	);
	if (!row || !addressFits(key, read, row.nonce)) return null;
	return { mailbox: read.mailbox, id: read.id };
}
