import { z } from 'zod';
import { openAccountLink, useAccountLink, endAccountLinks } from '../../access/account-links';
import { mayTry } from '../../access/guessing';
import { writeDown } from '../../access/log';
import { isAllowed } from '../../access/may';
import { asTyped, passwordRefused } from '../../access/password-rules';
import { hashPassword, passwordFits } from '../../access/passwords';
import { dropFactor, factorFits, hasFactor, newRecoveryCodes } from '../../access/second-factor';
import { endSessions, forgetPlaces, mayUsePassword } from '../../access/sessions';
import { userById, type User } from '../../access/user';
import { readDistrict } from '../../db/district';
import { signIn } from '../../db/models/access';
import type { Db, Query } from '../../db/open';
import type { Said } from '../../said';
import { mailPasswordLink } from './invite';
import { factorAsked } from './must-factor';
import { notYours } from './roles';
import { tellOwner } from './tell-owner';

const password = z.string().min(1, 'Write a password.').max(1000);
/** A password that is chosen, twice. */
export const chosen = { password, again: z.string().max(1000) };
/** The name by which somebody signs in. */
export const userNameSchema = z
	.string()
	.trim()
	.toLowerCase()
	.regex(
		/^[a-z0-9][a-z0-9._-]{1,59}$/,
		'A user name has 2 to 60 small letters, figures, dots, - and _.'
	);
export const acceptSchema = z.object({ userName: userNameSchema, ...chosen });
export const resetSchema = z.object(chosen);
export const changeSchema = z.object({ before: password, ...chosen });

const noLink = {
	ok: false,
	why: 'This link has been used, or its day is over. Ask for another one.'
} as const;

/** Why a password that was chosen, twice, cannot be; null where it can. `about` is what it must not be made of: names, the district's. */
export const chosenRefused = (
	{ password: chosenOne, again }: { readonly password: string; readonly again: string },
	about: readonly string[]
): string | null =>
	asTyped(chosenOne) === asTyped(again)
		? passwordRefused(chosenOne, [...about, 'idle courier'])
		: 'The two passwords are not the same. Write them again.';

/** Why a password cannot be somebody's; null where it can. */
async function whyNot(
	db: Query,
	personId: number,
	input: { readonly password: string; readonly again: string },
	userName: string
): Promise<string | null> {
	const { name } = await readDistrict(db);
	const who = await db.one<{ name: string }>(
		`SELECT given_name || ' ' || family_name AS name FROM person WHERE id = $personId`,
		{ personId }
	);
	return chosenRefused(input, [userName, who?.name ?? '', name]);
}

/** A user name that nobody has, made of a mail address. */
export async function freeUserName(db: Query, personId: number): Promise<string> {
	const row = await db.one<{ value: string }>(
		`SELECT value FROM address WHERE person_id = $personId AND way = 'email' ORDER BY id LIMIT 1`,
		{ personId }
	);
	const made = (row?.value ?? '')
		.split('@')[0]!
		.toLowerCase()
		.replace(/[^a-z0-9._-]/g, '');
	const taken = await db.one('SELECT 1 FROM sign_in WHERE user_name = $made', { made });
	return made.length < 2 || taken ? '' : made.slice(0, 60);
}

/** What came of setting a password by a link. */
export type Set = Said<{ readonly personId: number; readonly userName: string }>;

/** Sets the first password of somebody who was invited, and their user name. */
export async function acceptInvitation(
	db: Db,
	key: Buffer,
	token: string,
	input: z.infer<typeof acceptSchema>
): Promise<Set> {
	const link = await openAccountLink(db, key, token);
	if (!link.ok || link.kind !== 'invite') return noLink;
	const { personId } = link;
	const why = await whyNot(db, personId, input, input.userName);
	if (why !== null) return { ok: false, why };
	const passwordHash = await hashPassword(asTyped(input.password));
	return db.write(async (tx): Promise<Set> => {
		if (await tx.rows(signIn).one({ userName: input.userName }))
			return { ok: false, why: 'Somebody has that user name already. Choose another one.' };
		if (!(await useAccountLink(tx, link.id))) return noLink;
		const title = await tx.one<{ title: string }>(
			`SELECT role || coalesce(', ' || short_name, '') AS title FROM staff LEFT JOIN school ON school.id = school_id
			WHERE person_id = $personId LIMIT 1`,
			{ personId }
		);
		await tx.rows(signIn).add({
			...{ personId, userName: input.userName, passwordHash, title: title?.title ?? '' }
		});
		await writeDown(tx, { act: 'account-opened', by: { personId }, to: ['person', personId] });
		return { ok: true, personId, userName: input.userName };
	});
}

/** Sets a new password by a mailed link: every session there is ends. */
export async function resetPassword(
	db: Db,
	key: Buffer,
	token: string,
	input: z.infer<typeof resetSchema>
): Promise<Set> {
	const link = await openAccountLink(db, key, token);
	if (!link.ok || link.kind !== 'reset') return noLink;
	const { personId } = link;
	const account = await db.rows(signIn).one({ personId });
	if (!account || account.closedAt !== null) return noLink;
	const why = await whyNot(db, personId, input, account.userName);
	if (why !== null) return { ok: false, why };
	const passwordHash = await hashPassword(asTyped(input.password));
	return db.write(async (tx): Promise<Set> => {
		if (!(await useAccountLink(tx, link.id))) return noLink;
		await putPassword(tx, { personId, passwordHash, how: 'link', but: null });
		return { ok: true, personId, userName: account.userName };
	});
}

async function putPassword(
	tx: Query,
	{
		personId,
		passwordHash,
		how,
		but
	}: {
		readonly personId: number;
		readonly passwordHash: string;
		readonly how: 'link' | 'self';
		readonly but: number | null;
	}
): Promise<void> {
	await tx.rows(signIn).change({ personId }, { passwordHash });
	await endAccountLinks(tx, personId);
	await writeDown(tx, {
		...{ act: 'password-changed', by: { personId }, to: ['person', personId], after: { how } }
	});
	await endSessions(tx, personId, { but }, { personId });
	await tellOwner(tx, personId, {
		subject: 'Your password was changed',
		text: 'The password of your account was changed, and every other session of yours has ended. If it was not you, ask for a new password on the sign-in page, and tell whoever looks after the accounts.'
	});
}

/** Changes one's own password; every other session ends. */
export async function changePassword(
	db: Db,
	user: User,
	sessionId: number,
	input: z.infer<typeof changeSchema>,
	address: string
): Promise<Said> {
	const { personId } = user;
	const account = (await db.rows(signIn).one({ personId }))!;
	if ((await mayTry(`password of ${personId}`, address)) > 0)
		return { ok: false, why: 'There were too many tries. Wait a few minutes, then try again.' };
	if (!(await passwordFits(asTyped(input.before), account.passwordHash)))
		return { ok: false, why: 'The password you have now is another one. Write it again.' };
	const why = await whyNot(db, personId, input, account.userName);
	if (why !== null) return { ok: false, why };
	const passwordHash = await hashPassword(asTyped(input.password));
	await db.write((tx) => putPassword(tx, { personId, passwordHash, how: 'self', but: sessionId }));
	return { ok: true };
}

/** Mails a link for a new password to whoever has a user name or a mail address; what is answered is the same for everybody. */
export async function askPassword(db: Db, typed: string, address: string): Promise<number> {
	const waitMs = await mayTry(`forgotten ${typed}`, address);
	if (waitMs > 0) return waitMs;
	const rows = await db.all<{ personId: number }>(
		`SELECT sign_in.person_id AS personId FROM sign_in JOIN person_now AS person ON person.id = sign_in.person_id
		WHERE closed_at IS NULL AND (user_name = $typed OR EXISTS (SELECT 1 FROM address
			WHERE person_id = sign_in.person_id AND way = 'email' AND failing IS NULL AND value = $typed COLLATE NOCASE)) LIMIT 3`,
		{ typed: typed.trim().toLowerCase() }
	);
	await db.write(async (tx) => {
		for (const { personId } of rows) {
			const user = await userById(tx, personId);
			if (user && (await mayUsePassword(tx, user))) await mailPasswordLink(tx, personId, null);
		}
	});
	return 0;
}

/** Takes the second factor away from oneself, by a code of it. */
export async function factorOff(
	db: Db,
	key: Buffer,
	user: User,
	code: string,
	address: string
): Promise<Said> {
	const { personId } = user;
	if (await factorAsked(db, user))
		return { ok: false, why: 'A second factor is asked for of your role, so it stays.' };
	if ((await mayTry(`factor of ${personId}`, address)) > 0)
		return { ok: false, why: 'There were too many tries. Wait a few minutes, then try again.' };
	return db.write(async (tx): Promise<Said> => {
		if (!(await hasFactor(tx, personId))) return { ok: true };
		if (!(await factorFits(tx, key, personId, code)))
			return { ok: false, why: 'That code does not fit. Write the one that your app shows now.' };
		await dropFactor(tx, personId, user);
		await tellOwner(tx, personId, {
			subject: 'Your second factor was turned off',
			text: 'Your account asks for a password alone from now on. If it was not you, change your password and tell whoever looks after the accounts.'
		});
		return { ok: true };
	});
}

/** New codes for paper, by a code of the app. */
export async function codesAnew(
	db: Db,
	key: Buffer,
	user: User,
	code: string,
	address: string
): Promise<Said<{ readonly codes: readonly string[] }>> {
	if ((await mayTry(`factor of ${user.personId}`, address)) > 0)
		return { ok: false, why: 'There were too many tries. Wait a few minutes, then try again.' };
	return db.write(async (tx): Promise<Said<{ readonly codes: readonly string[] }>> => {
		if (!(await factorFits(tx, key, user.personId, code)))
			return { ok: false, why: 'That code does not fit. Write the one that your app shows now.' };
		return { ok: true, codes: await newRecoveryCodes(tx, user.personId) };
	});
}

/** Takes somebody's second factor away, whose phone and paper are lost: every session of theirs ends, and they are told. */
export async function dropFactorOf(db: Db, user: User, personId: number): Promise<Said> {
	if (!isAllowed(user, 'accounts')) return notYours;
	return db.write(async (tx): Promise<Said> => {
		if (!(await hasFactor(tx, personId)))
			return { ok: false, why: 'They have no second factor. Load the page again.' };
		if (personId === user.personId)
			return { ok: false, why: 'Turn your own off under “Your sign-in”.' };
		await dropFactor(tx, personId, user);
		await endSessions(tx, personId, { but: null }, user);
		await forgetPlaces(tx, personId);
		await tellOwner(tx, personId, {
			subject: 'Your second factor was taken away',
			text: `${user.name} has taken the second factor of your account away, as you asked. Sign in with your password, and set another one up under “Your sign-in”.`
		});
		return { ok: true };
	});
}

/** Ends every session of somebody, but the one it is done in; how many there were. */
export async function endSessionsOf(
	db: Db,
	user: User,
	personId: number,
	but: number | null
): Promise<Said<{ readonly ended: number }>> {
	if (!isAllowed(user, 'accounts')) return notYours;
	return { ok: true, ended: await db.write((tx) => endSessions(tx, personId, { but }, user)) };
}
