import { hashToken, newNonces, personToken } from '../access/tokens';
import { now } from '../clock';
import type { Db } from '../db/open';

/** How long a link that somebody makes to their own inbox opens it. */
const linkMs = 24 * 3_600_000;

/** A new link to a person's own inbox: the path on this site. Only its hash is kept. */
export async function ownInboxLink(db: Db, key: Buffer, personId: number): Promise<string> {
	return db.write(async (tx) => {
		const nonce = newNonces(1)[0]!;
		const token = personToken(key, nonce);
		await tx.run(
			`INSERT INTO family_link (token_hash, person_id, ends_at, nonce)
			VALUES ($hash, $personId, $ends, $nonce)`,
			{ hash: hashToken(token), personId, ends: Math.round((await now(tx)) + linkMs), nonce }
		);
		return `/f/${token}`;
	});
}
