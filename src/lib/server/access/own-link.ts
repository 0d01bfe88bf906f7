import { familyLink } from '../db/models/access';
import { hashToken, newNonces, personToken } from './tokens';
import { now } from '../clock';
import type { Db } from '../db/open';

/** How long a link that somebody makes to their own inbox opens it. */
const linkMs = 24 * 3_600_000;

/** A new link to a person's own inbox: the path on this site, and until when it opens it. Only its hash is kept. */
export async function ownInboxLink(
	db: Db,
	key: Buffer,
	personId: number,
	{ lastsMs = linkMs, madeBy = personId }: { lastsMs?: number; madeBy?: number } = {}
): Promise<{ path: string; endsAt: number }> {
	return db.write(async (tx) => {
		const nonce = newNonces(1)[0]!;
		const token = personToken(key, nonce);
		const endsAt = Math.round((await now(tx)) + lastsMs);
		await tx.rows(familyLink).add({ tokenHash: hashToken(token), personId, endsAt, nonce, madeBy });
		return { path: `/f/${token}`, endsAt };
	});
}
