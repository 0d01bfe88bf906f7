import { randomInt } from 'node:crypto';
import { Secret, TOTP } from 'otpauth';
import { recoveryCode, secondFactor } from '../db/models/access';
import type { Db, Query } from '../db/open';
import { writeDown } from './log';
import { seal, unseal } from './seal';
import { hashToken } from './tokens';

const purpose = 'second factor';
/** As every app for it takes them (RFC 6238 section 4, RFC 4226 section 4: at least 128 bits of secret). */
const form = { algorithm: 'SHA1', digits: 6, period: 30 } as const;
/** A clock may be one step off either way (RFC 6238 section 5.2). */
const window = 1;

const recoveryCodes = 10;
/** Letters and figures that are not taken for one another. */
const alphabet = '23456789abcdefghjkmnpqrstuvwxyz';

const totpOf = (secret: Secret, label = ''): TOTP =>
	new TOTP({ issuer: 'Idle Courier', label: label || 'sign-in', secret, ...form });

/** The step of time that a code is of, among those that are near an instant (ms); null where it is none of them. */
export function stepOfCode(base32: string, code: string, at: number): number | null {
	if (!/^[0-9]{6}$/.test(code)) return null;
	const secret = Secret.fromBase32(base32);
	const delta = totpOf(secret).validate({ token: code, timestamp: at, window });
	return delta === null ? null : Math.floor(at / 1000 / form.period) + delta;
}

/** Whether somebody has a second factor that works. */
export const hasFactor = async (db: Query, personId: number): Promise<boolean> =>
	(await db.one(
		'SELECT 1 FROM second_factor WHERE person_id = $personId AND confirmed_at IS NOT NULL',
		{ personId }
	)) !== undefined;

/** Begins a second factor: what an app is to be told, as an address for its camera. Nothing is asked for before a code of it has come. */
export async function beginFactor(
	db: Db,
	key: Buffer,
	{ personId, userName }: { readonly personId: number; readonly userName: string }
): Promise<{ readonly address: string; readonly secret: string } | null> {
	if (await hasFactor(db, personId)) return null;
	const secret = new Secret({ size: 20 });
	await db.write((tx) =>
		tx.run(
			`INSERT INTO second_factor (person_id, secret) VALUES ($personId, $secret)
			ON CONFLICT (person_id) DO UPDATE SET secret = excluded.secret, last_step = 0`,
			{ personId, secret: seal(key, purpose, secret.base32) }
		)
	);
	return { address: totpOf(secret, userName).toString(), secret: secret.base32 };
}

/** What a factor that was begun told the app, once more: for a page that is loaded again. */
export async function begunFactor(
	db: Query,
	key: Buffer,
	{ personId, userName }: { readonly personId: number; readonly userName: string }
): Promise<{ readonly address: string; readonly secret: string } | null> {
	const row = await db.rows(secondFactor).one({ personId });
	const base32 = row && row.confirmedAt === null ? unseal(key, purpose, row.secret) : null;
	if (base32 === null) return null;
	return { address: totpOf(Secret.fromBase32(base32), userName).toString(), secret: base32 };
}

/** Takes a code, once: the same code, or an older one, is not taken again (RFC 6238 section 5.2). */
async function takeCode(
	tx: Query,
	key: Buffer,
	personId: number,
	code: string,
	at: number
): Promise<boolean> {
	const row = await tx.rows(secondFactor).one({ personId });
	const base32 = row ? unseal(key, purpose, row.secret) : null;
	if (!row || base32 === null) return false;
	const step = stepOfCode(base32, code.replace(/\s/g, ''), at);
	if (step === null || step <= row.lastStep) return false;
	await tx.rows(secondFactor).change({ personId }, { lastStep: step });
	return true;
}

/** Takes a code from paper, once. */
async function takeRecovery(tx: Query, personId: number, code: string): Promise<boolean> {
	const codeHash = hashToken(`${personId} ${code.toLowerCase().replace(/[^a-z0-9]/g, '')}`);
	const row = await tx.rows(recoveryCode).one({ codeHash, personId });
	if (!row || row.usedAt !== null) return false;
	await tx.rows(recoveryCode).change({ codeHash }, { usedAt: Date.now() });
	return true;
}

/** Whether what somebody typed is their second factor at an instant of the machine (ms): a code of the app, or one of those on paper. */
export async function factorFits(
	tx: Query,
	key: Buffer,
	personId: number,
	typed: string,
	at = Date.now()
): Promise<boolean> {
	return (
		(await takeCode(tx, key, personId, typed, at)) || (await takeRecovery(tx, personId, typed))
	);
}

/** Codes for paper, anew: those of before are good no more. They are shown this once. */
export async function newRecoveryCodes(tx: Query, personId: number): Promise<string[]> {
	const letters = (n: number) =>
		Array.from({ length: n }, () => alphabet[randomInt(alphabet.length)]).join('');
	const codes = Array.from({ length: recoveryCodes }, () => `${letters(5)}-${letters(5)}`);
	await tx.rows(recoveryCode).remove({ personId });
	await tx.rows(recoveryCode).addMany(
		codes.map((code) => ({
			codeHash: hashToken(`${personId} ${code.replace('-', '')}`),
			personId
		}))
	);
	return codes;
}

/** How many codes on paper are still good. */
export const recoveryLeft = async (db: Query, personId: number): Promise<number> =>
	(await db.one<{ n: number }>(
		'SELECT count(*) AS n FROM recovery_code WHERE person_id = $personId AND used_at IS NULL',
		{ personId }
	))!.n;

/** Turns a factor on that was begun, by a first code of it; the codes for paper, or null where the code does not fit. */
export async function confirmFactor(
	db: Db,
	key: Buffer,
	personId: number,
	code: string,
	at = Date.now()
): Promise<readonly string[] | null> {
	return db.write(async (tx) => {
		if (await hasFactor(tx, personId)) return null;
		if (!(await takeCode(tx, key, personId, code, at))) return null;
		await tx.rows(secondFactor).change({ personId }, { confirmedAt: Date.now() });
		await writeDown(tx, { act: 'factor-on', by: { personId }, to: ['person', personId] });
		return newRecoveryCodes(tx, personId);
	});
}

/** Turns a second factor off, in the caller's transaction. */
export async function dropFactor(
	tx: Query,
	personId: number,
	by: { readonly personId: number }
): Promise<void> {
	await tx.rows(secondFactor).remove({ personId });
	await tx.rows(recoveryCode).remove({ personId });
	await writeDown(tx, {
		...{ act: 'factor-off', by, to: ['person', personId] },
		after: { how: by.personId === personId ? 'self' : 'office' }
	});
}
