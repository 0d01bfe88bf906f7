import { session, signIn as account } from '../db/models/access';
import type { Db, Query } from '../db/open';
import { mayTry, signedIn } from './guessing';
import { hashPassword, passwordFits } from './passwords';
import { hashToken, newToken } from './tokens';
import { userById, type User } from './user';

/** A school day and the evening after it. Counted in the machine's time: moving the bench clock signs nobody out. */
const sessionHours = 14;

/** A hash that no password fits: an unknown name takes as long as a wrong password, so that names cannot be found out by the clock. */
let decoy: Promise<string> | undefined;

/** A session for the cookie; or that name and password do not fit together, or that there were too many tries. */
export type SignedIn =
	| { readonly ok: true; readonly token: string; readonly endsAt: number }
	| { readonly ok: false; readonly waitMs: number };

/** Opens a session. `address` is where the try comes from; `before` is the session that the same browser has, which ends by it. */
export async function signIn(
	db: Db,
	userName: string,
	password: string,
	{ address = '', before }: { readonly address?: string; readonly before?: string | undefined } = {}
): Promise<SignedIn> {
	const waitMs = await mayTry(userName, address);
	if (waitMs > 0) return { ok: false, waitMs };
	const found = await db.rows(account).one({ userName: userName.trim().toLowerCase() });
	decoy ??= hashPassword(newToken());
	const fits = await passwordFits(password, found?.passwordHash ?? (await decoy));
	// Whoever is nothing here (any more) is answered as a wrong password is.
	if (!found || !fits || !(await userById(db, found.personId))) return { ok: false, waitMs: 0 };
	await signedIn(userName, address);
	const token = newToken();
	const time = Date.now();
	const endsAt = time + sessionHours * 3_600_000;
	await db.write(async (tx) => {
		await tx.run('DELETE FROM session WHERE ends_at < $time OR token_hash = $before', {
			time,
			before: before ? hashToken(before) : ''
		});
		await tx.rows(session).add({ tokenHash: hashToken(token), personId: found.personId, endsAt });
	});
	return { ok: true, token, endsAt };
}

/** The user of a session cookie, or null when it is unknown or has ended. */
export async function userOf(db: Query, token: string | undefined): Promise<User | null> {
	if (!token) return null;
	const row = await db.rows(session).one({ tokenHash: hashToken(token) });
	return row && row.endsAt > Date.now() ? userById(db, row.personId) : null;
}

/** Ends a session at once. */
export async function signOut(db: Db, token: string): Promise<void> {
	await db.rows(session).remove({ tokenHash: hashToken(token) });
}
