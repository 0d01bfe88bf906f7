import { familyLink } from '../db/models/access';
import { hashToken, newNonces, personToken } from './tokens';
import { now } from '../clock';
import type { Db } from '../db/open';

/** How long a link that somebody makes to their own inbox opens it. */
const linkMs = 24 * 3_600_000;

/** How long a link opens an inbox, and whose doing it is. */
interface LinkMade {
	readonly lastsMs: number;
	readonly madeBy: number;
}

/** New links to people's own inboxes: the paths on this site in the order of the people, and until when they open them. Only their hashes are kept. */
export async function ownInboxLinks(
	db: Db,
	key: Buffer,
	personIds: readonly number[],
	{ lastsMs, madeBy }: LinkMade
): Promise<{ paths: string[]; endsAt: number }> {
	const nonces = newNonces(personIds.length);
	const tokens = nonces.map((nonce) => personToken(key, nonce));
	const endsAt = await db.write(async (tx) => {
		const until = Math.round((await now(tx)) + lastsMs);
		await tx.rows(familyLink).addMany(
			personIds.map((personId, i) => ({
				...{ tokenHash: hashToken(tokens[i]!), personId, endsAt: until },
				...{ nonce: nonces[i]!, madeBy }
			}))
		);
		return until;
	});
	return { paths: tokens.map((token) => `/f/${token}`), endsAt };
}

/** A new link to a person's own inbox. */
export async function ownInboxLink(
	db: Db,
	key: Buffer,
	personId: number,
	{ lastsMs = linkMs, madeBy = personId }: Partial<LinkMade> = {}
): Promise<{ path: string; endsAt: number }> {
	const { paths, endsAt } = await ownInboxLinks(db, key, [personId], { lastsMs, madeBy });
	return { path: paths[0]!, endsAt };
}
