import type { Db, Query } from '../db/open';
import { mayTry, signedIn } from './guessing';
import { hashPassword, passwordFits } from './passwords';
import { hashToken, newToken } from './tokens';

/** Who is signed in, and what for. */
export interface User {
	readonly personId: number;
	readonly name: string;
	readonly role: 'coordinator' | 'office' | 'principal' | 'teacher';
	/** The school of an office, principal or teacher; null for the whole district. */
	readonly schoolId: number | null;
	/** "Communications", "Mathematics": stands under what they write. */
	readonly title: string;
}

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
	const found = await db.one<{ personId: number; passwordHash: string }>(
		`SELECT person_id AS personId, password_hash AS passwordHash FROM sign_in WHERE user_name = $name`,
		{ name: userName.trim().toLowerCase() }
	);
	decoy ??= hashPassword(newToken());
	const fits = await passwordFits(password, found?.passwordHash ?? (await decoy));
	if (!found || !fits) return { ok: false, waitMs: 0 };
	await signedIn(userName, address);
	const token = newToken();
	const time = Date.now();
	const endsAt = time + sessionHours * 3_600_000;
	await db.write(async (tx) => {
		await tx.run('DELETE FROM session WHERE ends_at < $time OR token_hash = $before', {
			time,
			before: before ? hashToken(before) : ''
		});
		await tx.run(
			'INSERT INTO session (token_hash, person_id, ends_at) VALUES ($hash, $person, $endsAt)',
			{ hash: hashToken(token), person: found.personId, endsAt }
		);
	});
	return { ok: true, token, endsAt };
}

/** Someone who may sign in, as they are now; null where they may not (any more). */
export async function userById(db: Query, personId: number): Promise<User | null> {
	return (
		(await db.one<User>(
			`SELECT person_id AS personId, given_name || ' ' || family_name AS name, role,
				sign_in.school_id AS schoolId, title
			FROM sign_in JOIN person ON person.id = person_id WHERE person_id = $personId`,
			{ personId }
		)) ?? null
	);
}

/** The user of a session cookie, or null when it is unknown or has ended. */
export async function userOf(db: Query, token: string | undefined): Promise<User | null> {
	if (!token) return null;
	const row = await db.one<{ personId: number }>(
		`SELECT person_id AS personId FROM session WHERE token_hash = $hash AND ends_at > $time`,
		{ hash: hashToken(token), time: Date.now() }
	);
	return row ? userById(db, row.personId) : null;
}

/** Ends a session at once. */
export async function signOut(db: Db, token: string): Promise<void> {
	await db.run('DELETE FROM session WHERE token_hash = $hash', { hash: hashToken(token) });
}
