import DataLoader from 'dataloader';
import type { SessionRow } from '../db/models/access';
import type { Db, Query } from '../db/open';
import { openNow, type SessionStanding } from './sessions';
import { hashToken } from './tokens';
import { usersById, type User } from './user';

/** The users of some session cookies, in their order; null of one that is unknown or has ended. */
async function usersOf(db: Query, tokens: readonly string[]): Promise<(User | null)[]> {
	const hashes = tokens.map(hashToken);
	const rows = await db.all<SessionStanding & Pick<SessionRow, 'tokenHash' | 'personId'>>(
		`SELECT token_hash AS tokenHash, person_id AS personId, ends_at AS endsAt, seen_at AS seenAt, waits_factor AS waitsFactor
		FROM session WHERE token_hash IN (SELECT value FROM json_each($hashes))`,
		{ hashes: JSON.stringify(hashes) }
	);
	const open = rows.filter(await openNow(db));
	const users = await usersById(db, [...new Set(open.map((r) => r.personId))]);
	const byHash = new Map(open.map((r) => [r.tokenHash, users.get(r.personId) ?? null]));
	return hashes.map((hash) => byHash.get(hash) ?? null);
}

/** Of each database, those who ask within the same moment. */
const together = new WeakMap<Db, DataLoader<string, User | null>>();

/**
 * The user of a session cookie, or null when it is unknown or has ended; asked in one go for all who ask within the same
 * moment. It is not noted as a use: a page that only listens asks for nothing, and does not keep its session open.
 */
export async function userOf(db: Db, token: string | undefined): Promise<User | null> {
	if (!token) return null;
	const asked =
		together.get(db) ??
		new DataLoader<string, User | null>((tokens) => usersOf(db, tokens), { cache: false });
	together.set(db, asked);
	return asked.load(token);
}
