import { isIPv4 } from 'node:net';
import Bowser from 'bowser';
import { seenPlace, session, signIn as account, type SessionRow } from '../db/models/access';
import type { Db, Query } from '../db/open';
import { mayTry, signedIn } from './guessing';
import { jobOffset } from '../clock';
import { readDistrict } from '../db/district';
import { shownIdentity } from '../identity';
import { writeDown } from './log';
import { asTyped } from './password-rules';
import { hashPassword, passwordFits } from './passwords';
import { has } from './rights';
import { factorFits, hasFactor } from './second-factor';
import { hashToken, newToken } from './tokens';
import { userById, type User } from './user';

/** A school day and the evening after it. Counted in the machine's time: moving the bench clock signs nobody out. */
const sessionHours = 14;
/** How long the second factor may be in coming, ms. */
const factorMs = 10 * 60_000;
/** How often it is noted that a session is still used, ms. */
const seenEveryMs = 60_000;

/** A hash that no password fits: an unknown name takes as long as a wrong password, so that names cannot be found out by the clock. */
let decoy: Promise<string> | undefined;

/** Where a browser comes from, and what it says of itself. */
export interface From {
	readonly address: string;
	readonly agent: string;
}

/** How it is with the second factor: given here or none asked for, to come, or asked for by the identity provider. */
export type Factor = 'given' | 'to-come' | 'outside';

/** A session that was opened. */
export interface Opened {
	readonly personId: number;
	/** For the cookie. */
	readonly token: string;
	readonly endsAt: number;
	/** It opens nothing before the second factor has come. */
	readonly waitsFactor: boolean;
	/** "Firefox on Windows", where they have never come in from there before, and from elsewhere; null else. */
	readonly fromElsewhere: string | null;
}
/** A session; or that name and password do not fit together, or that there were too many tries, and of whom. */
export type SignedIn =
	| ({ readonly ok: true } & Opened)
	| { readonly ok: false; readonly waitMs: number; readonly slowed: number | null };

/** "Firefox on Windows", of what a browser says of itself. */
function browserOf(agent: string): string {
	if (agent === '') return 'an unknown browser';
	const { browser, os } = Bowser.parse(agent.slice(0, 500));
	return [browser.name ?? 'an unknown browser', os.name && `on ${os.name}`]
		.filter(Boolean)
		.join(' ')
		.slice(0, 100);
}

/** The network that an address is of: what is given out to one house or phone changes within it. */
const networkOf = (address: string): string =>
	isIPv4(address)
		? address.split('.').slice(0, 3).join('.')
		: address.split(':').slice(0, 3).join(':');

/** Notes from where somebody comes in; whether it is another place than any before. */
async function isElsewhere(
	tx: Query,
	personId: number,
	{ address, agent }: From
): Promise<boolean> {
	const placeHash = hashToken(`${personId} ${browserOf(agent)} ${networkOf(address)}`);
	const before = await tx.one<{ n: number; here: number }>(
		`SELECT count(*) AS n, coalesce(sum(place_hash = $placeHash), 0) AS here FROM seen_place WHERE person_id = $personId`,
		{ personId, placeHash }
	);
	await tx.run(
		`INSERT INTO seen_place (person_id, place_hash, seen_at) VALUES ($personId, $placeHash, $at)
		ON CONFLICT DO UPDATE SET seen_at = excluded.seen_at`,
		{ personId, placeHash, at: Date.now() }
	);
	return before!.n > 0 && before!.here === 0;
}

/** Opens a session, in the caller's transaction. `before` is the session that the same browser has, which ends by it. */
export async function openSession(
	tx: Query,
	personId: number,
	from: From,
	{ before, factor }: { readonly before: string | undefined; readonly factor: Factor }
): Promise<Opened> {
	const token = newToken();
	const time = Date.now();
	const waitsFactor = factor === 'to-come';
	const endsAt = time + (waitsFactor ? factorMs : sessionHours * 3_600_000);
	await tx.run('DELETE FROM session WHERE ends_at < $time OR token_hash = $before', {
		time,
		before: before ? hashToken(before) : ''
	});
	const browser = browserOf(from.agent);
	const id = await tx.rows(session).add({
		...{ tokenHash: hashToken(token), personId, beganAt: time, seenAt: time, endsAt },
		...{ browser, address: from.address.slice(0, 100), waitsFactor: waitsFactor ? 1 : 0 },
		factorOutside: factor === 'outside' ? 1 : 0
	});
	if (waitsFactor) return { personId, token, endsAt, waitsFactor, fromElsewhere: null };
	await writeDown(tx, {
		...{ act: 'signed-in', by: { personId }, to: ['person', personId] },
		after: { session: id }
	});
	const elsewhere = await isElsewhere(tx, personId, from);
	return { personId, token, endsAt, waitsFactor, fromElsewhere: elsewhere ? browser : null };
}

/** Writes down that somebody tried to come in as a person and could not. */
const writeTried = (db: Db, personId: number, what: 'password' | 'factor') =>
	db.write((tx) =>
		writeDown(tx, {
			...{ act: 'sign-in-refused', by: null, to: ['person', personId] },
			after: { what }
		})
	);

/** Whether somebody may come in by a password: where everybody is to come by the identity provider, only who can put it right when it fails. */
export async function mayUsePassword(db: Query, user: User): Promise<boolean> {
	const outside = await shownIdentity(db);
	return outside?.passwords !== 'keepers' || has(user, 'settings') || has(user, 'accounts');
}

/** Opens a session by name and password; where there is a second factor, one that waits for it. */
export async function signIn(
	db: Db,
	userName: string,
	password: string,
	{ before, ...from }: Partial<From> & { readonly before?: string | undefined } = {}
): Promise<SignedIn> {
	const { address = '', agent = '' } = from;
	const name = userName.trim().toLowerCase();
	const waitMs = await mayTry(name, address);
	const found = await db.rows(account).one({ userName: name });
	if (waitMs > 0) return { ok: false, waitMs, slowed: found?.personId ?? null };
	decoy ??= hashPassword(newToken());
	const fits = await passwordFits(asTyped(password), found?.passwordHash || (await decoy));
	const user = found && (await userById(db, found.personId));
	// Whoever is nothing here (any more), or has to come by the identity provider, is answered as a wrong password is.
	if (!found || !fits || !user || !(await mayUsePassword(db, user))) {
		if (found) await writeTried(db, found.personId, 'password');
		return { ok: false, waitMs: 0, slowed: null };
	}
	await signedIn(name, address);
	const factor = (await hasFactor(db, found.personId)) ? 'to-come' : 'given';
	const opened = await db.write((tx) =>
		openSession(tx, found.personId, { address, agent }, { before, factor })
	);
	return { ok: true, ...opened };
}

/** Gives the second factor to a session that waits for it: it ends, and one begins that opens everything. */
export async function giveFactor(
	db: Db,
	key: Buffer,
	token: string,
	typed: string,
	from: From
): Promise<SignedIn> {
	const row = await db.rows(session).one({ tokenHash: hashToken(token) });
	const no = { ok: false, waitMs: 0, slowed: null } as const;
	if (!row || row.endsAt <= Date.now() || row.waitsFactor === 0) return no;
	const { personId } = row;
	const waitMs = await mayTry(`factor of ${personId}`, from.address);
	if (waitMs > 0) return { ok: false, waitMs, slowed: personId };
	const opened = await db.write(async (tx) =>
		(await factorFits(tx, key, personId, typed))
			? openSession(tx, personId, from, { before: token, factor: 'given' })
			: null
	);
	if (!opened) {
		await writeTried(db, personId, 'factor');
		return no;
	}
	await signedIn(`factor of ${personId}`, from.address);
	return { ok: true, ...opened };
}

/** Whoever has asked for nothing since then (ms) is not there any more. */
const idleSince = async (db: Query): Promise<number> =>
	Date.now() - (await readDistrict(db)).idleHours * 3_600_000;

/** A browser that is signed in. */
interface Session {
	readonly id: number;
	readonly user: User;
	/** The identity provider has asked for a second factor. */
	readonly factorOutside: boolean;
}

/** What says whether a session opens anything. */
export type SessionStanding = Pick<SessionRow, 'endsAt' | 'seenAt' | 'waitsFactor'>;

/** Says of sessions whether they open anything now. */
export async function openNow(db: Query): Promise<(row: SessionStanding) => boolean> {
	const idle = await idleSince(db);
	const time = Date.now();
	return (row) => row.endsAt > time && row.waitsFactor === 0 && row.seenAt > idle;
}

/** The session of a cookie, and whose it is; null when it is unknown, has ended, or waits for a second factor. That it was used is noted. */
export async function sessionOf(db: Db, token: string | undefined): Promise<Session | null> {
	if (!token) return null;
	const row = await db.rows(session).one({ tokenHash: hashToken(token) });
	if (!row || !(await openNow(db))(row)) return null;
	const user = await userById(db, row.personId);
	const time = Date.now();
	if (user && time - row.seenAt > seenEveryMs)
		await db.rows(session).change({ id: row.id }, { seenAt: time });
	return user && { id: row.id, user, factorOutside: row.factorOutside === 1 };
}

/** Ends a session at once. */
export async function signOut(db: Db, token: string): Promise<void> {
	await db.write(async (tx) => {
		const row = await tx.rows(session).one({ tokenHash: hashToken(token) });
		if (!row) return;
		await tx.rows(session).remove({ id: row.id });
		if (row.waitsFactor === 1) return;
		await writeDown(tx, {
			...{ act: 'signed-out', by: row, to: ['person', row.personId] },
			after: { session: row.id }
		});
	});
}

/** A session as its owner sees it; its times are the job’s, as all that is shown. */
export type SessionShown = Pick<SessionRow, 'id' | 'beganAt' | 'seenAt' | 'browser' | 'address'>;

/** The sessions of somebody that are open, the newest first. */
export const sessionsOf = async (db: Query, personId: number): Promise<SessionShown[]> =>
	db.all(
		`SELECT id, began_at + ${jobOffset} AS beganAt, seen_at + ${jobOffset} AS seenAt, browser, address FROM session
		WHERE person_id = $personId AND ends_at > $time AND seen_at > $idle AND NOT waits_factor ORDER BY seen_at DESC, id DESC LIMIT 100`,
		{ personId, time: Date.now(), idle: await idleSince(db) }
	);

/** Ends sessions of somebody, in the caller's transaction: one by its number, or all but one. How many there were. */
export async function endSessions(
	tx: Query,
	personId: number,
	which: { readonly only: number } | { readonly but: number | null },
	by: { readonly personId: number }
): Promise<number> {
	const ids = (
		await tx.all<{ id: number }>(
			`SELECT id FROM session WHERE person_id = $personId AND ${'only' in which ? 'id = $id' : 'id IS NOT $id'}`,
			{ personId, id: 'only' in which ? which.only : which.but }
		)
	).map((r) => r.id);
	if (ids.length === 0) return 0;
	await tx.run('DELETE FROM session WHERE id IN (SELECT value FROM json_each($ids))', {
		ids: JSON.stringify(ids)
	});
	await writeDown(tx, {
		...{ act: 'sessions-ended', by, to: ['person', personId] },
		after: { sessions: ids.length }
	});
	return ids.length;
}

/** Where somebody has come in from before is no longer known: the next place is told to them. */
export async function forgetPlaces(tx: Query, personId: number): Promise<void> {
	await tx.rows(seenPlace).remove({ personId });
}
