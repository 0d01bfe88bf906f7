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

/** What addresses of ours belong to, in their order; null for what is none of ours: of another form, of a row that is not there, or made for one that had its number before. */
export async function addresseesOf(
	db: Query,
	key: Buffer,
	addresses: readonly string[]
): Promise<(Addressee | null)[]> {
	const read = addresses.map(readAddress);
	const wanted = new Map<string, Set<number>>();
	for (const one of read) {
		if (!one) continue;
		const table = tables[one.mailbox];
		wanted.set(table, (wanted.get(table) ?? new Set<number>()).add(one.id));
	}
	const nonces = new Map<string, string>();
	for (const [table, ids] of wanted) {
		const rows = await db.all<{ id: number; nonce: string }>(
			`SELECT id, nonce FROM ${table} WHERE id IN (SELECT value FROM json_each($ids))`,
			{ ids: JSON.stringify([...ids]) }
		);
		for (const { id, nonce } of rows) nonces.set(`${table} ${id}`, nonce);
	}
	return read.map((one) => {
		const nonce = one && nonces.get(`${tables[one.mailbox]} ${one.id}`);
		return one && nonce && addressFits(key, one, nonce)
			? { mailbox: one.mailbox, id: one.id }
			: null;
	});
}

/** What one address of ours belongs to. */
export const addresseeOf = async (
	db: Query,
	key: Buffer,
	address: string
): Promise<Addressee | null> => (await addresseesOf(db, key, [address]))[0]!;
