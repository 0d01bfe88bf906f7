import { hashToken, personToken } from '../access/tokens';
import { now } from '../clock';
import type { Db } from '../db/open';

/** How long a link that somebody makes to their own inbox opens it. */
const linkMs = 24 * 3_600_000;

/** A new link to a person's own inbox: the path on this site. Only its hash is kept. */
export async function ownInboxLink(db: Db, key: Buffer, personId: number): Promise<string> {
	return db.write(async (tx) => {
		const last = await tx.one<{ id: number }>('SELECT coalesce(max(id), 0) AS id FROM family_link');
		const id = last!.id + 1;
		const token = personToken(key, id);
		await tx.run(
			`INSERT INTO family_link (id, token_hash, person_id, ends_at)
			VALUES ($id, $hash, $personId, $ends)`,
			{ id, hash: hashToken(token), personId, ends: Math.round((await now(tx)) + linkMs) }
		);
		return `/f/${token}`;
	});
}
