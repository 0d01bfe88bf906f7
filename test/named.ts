import {
	addressFor,
	copyToken,
	personToken,
	type Mailbox,
	type Named
} from '../src/lib/server/access/tokens';
import type { Query } from '../src/lib/server/db/open';

/** What is named outside of a row, as the application itself makes it: from the random value the row holds. */
const rowOf = async (db: Query, table: string, id: number): Promise<Named> =>
	(await db.one<Named>(`SELECT id, nonce FROM ${table} WHERE id = $id`, { id })) ?? {
		id,
		nonce: 'no such row'
	};

/** The token of a copy's private link. */
export const tokenOf = async (db: Query, key: Buffer, deliveryId: number): Promise<string> =>
	copyToken(key, (await rowOf(db, 'delivery', deliveryId)).nonce);

/** The token of a person's own link. */
export const ownTokenOf = async (db: Query, key: Buffer, linkId: number): Promise<string> =>
	personToken(key, (await rowOf(db, 'family_link', linkId)).nonce);

/** The address to which something about a copy comes. */
export const addressOf = async (
	db: Query,
	key: Buffer,
	mailbox: Extract<Mailbox, 'return' | 'answer'>,
	deliveryId: number,
	domain = 'return.example'
): Promise<string> => addressFor(key, mailbox, await rowOf(db, 'delivery', deliveryId), domain);
