import { z } from 'zod';
import { endAccountLinks, makeAccountLink } from '../../access/account-links';
import { writeDown } from '../../access/log';
import { isAllowed } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { readDistrict } from '../../db/district';
import { signIn } from '../../db/models/access';
import { person, school, staff } from '../../db/models/roster';
import { personChange } from '../../db/models/rosters';
import { address } from '../../db/models/roster';
import type { Db, Query } from '../../db/open';
import { rosterChanged } from '../../db/roster';
import type { Said } from '../../said';
import { idSchema, line, namePart } from '../hand/fields';
import { readAddress } from '../people/read-address';
import { putNotices } from '../staff/notices';
import { notYours, putRole, roleSchema } from './roles';

/** Who is invited: somebody on file, or somebody new; and what as. */
export const inviteSchema = z
	.discriminatedUnion('who', [
		z.object({ who: z.literal('known'), personId: idSchema }),
		z.object({
			who: z.literal('new'),
			givenName: namePart('The given name'),
			familyName: line('The family name', 200),
			email: line('The email address', 320).min(3, 'The invitation goes by mail: write an address.')
		})
	])
	.and(roleSchema);

/** Somebody known, or put on file now; why not. */
async function personToInvite(
	tx: Query,
	user: User,
	input: z.infer<typeof inviteSchema>
): Promise<{ readonly personId: number } | { readonly why: string }> {
	if (input.who === 'known') {
		const row = await tx.one<{ kind: string; account: number; email: string | null }>(
			`SELECT kind, EXISTS (SELECT 1 FROM sign_in WHERE person_id = person.id) AS account,
				(SELECT value FROM address WHERE person_id = person.id AND way = 'email' AND failing IS NULL LIMIT 1) AS email
			FROM person_now AS person WHERE id = $id`,
			{ id: input.personId }
		);
		if (!row || row.kind === 'student') return { why: 'Choose an adult who is on file.' };
		if (row.account === 1)
			return { why: 'They work here already. Give them a role on their page.' };
		if (row.email === null)
			return { why: 'No mail address of theirs works. Put one on their file first.' };
		return { personId: input.personId };
	}
	const read = await readAddress(tx, 'email', input.email);
	if ('why' in read) return read;
	const taken = await tx.one<{ name: string }>(
		`SELECT given_name || ' ' || family_name AS name FROM address JOIN person_now AS person ON person.id = person_id
		WHERE way = 'email' AND value = $value COLLATE NOCASE AND kind = 'adult' LIMIT 1`,
		{ value: read.value }
	);
	if (taken)
		return {
			why: `That is the address of ${taken.name}, who is on file. Find them by name instead.`
		};
	const schoolId = input.place.startsWith('school ') ? Number(input.place.slice(7)) : null;
	if (schoolId !== null && !(await tx.rows(school).one({ id: schoolId })))
		return { why: 'There is no such school. Load the page again.' };
	const at = Math.round(await now(tx));
	const { language } = await readDistrict(tx);
	const { givenName, familyName } = input;
	const personId = await tx.rows(person).add({
		...{ kind: 'adult', givenName, familyName, language, hasInbox: 1, since: at, goneAt: null }
	});
	await tx.rows(address).add({ personId, way: 'email', value: read.value, consent: 'unknown' });
	await tx.rows(staff).add({ personId, schoolId, role: 'staff' });
	await tx.rows(personChange).add({
		...{ at, byId: user.personId, personId, field: 'added', aboutId: null, before: null },
		after: `${givenName} ${familyName}`.trim()
	});
	await rosterChanged(tx);
	return { personId };
}

/** The letter that brings the link; the link itself is put in when it leaves. */
async function mailLink(
	tx: Query,
	personId: number,
	linkId: number,
	letter: { readonly subject: string; readonly text: string }
): Promise<void> {
	await putNotices(tx, [
		{
			key: `account ${linkId}`,
			...{ personId, kind: 'sign-in', ...letter, dispatchId: null, byMail: true },
			accountLinkId: linkId
		}
	]);
}

/** Invites somebody to work here, by mail: a link that is good once, for a day, and a role from now or later. */
export async function invite(
	db: Db,
	user: User,
	input: z.infer<typeof inviteSchema>
): Promise<Said<{ readonly personId: number }>> {
	if (!isAllowed(user, 'accounts')) return notYours;
	let why: string | null = null;
	const personId = await db
		.write(async (tx) => {
			const found = await personToInvite(tx, user, input);
			if ('why' in found) {
				why = found.why;
				throw new Error(found.why);
			}
			why = await putRole(tx, user, found.personId, input);
			if (why !== null) throw new Error(why);
			await sendInvitation(tx, user, found.personId);
			return found.personId;
		})
		.catch((error: Error) => {
			if (why === null) throw error;
			return 0;
		});
	return why === null ? { ok: true, personId } : { ok: false, why };
}

async function sendInvitation(tx: Query, user: User, personId: number): Promise<void> {
	const { name } = await readDistrict(tx);
	const linkId = await makeAccountLink(tx, { personId, kind: 'invite', madeBy: user.personId });
	await mailLink(tx, personId, linkId, {
		subject: `You can sign in at ${name}`,
		text: [
			`${user.name} has invited you to Idle Courier, by which ${name} writes to its families.`,
			'Choose a user name and a password here; the link is good once, for a day:\n{link}',
			'If you did not expect this, do nothing: without the link nobody comes in.'
		].join('\n\n')
	});
	await writeDown(tx, { act: 'invited', by: user, to: ['person', personId] });
}

/** Mails an invitation again, with another link; or a link for a new password to whoever has an account. */
export async function mailAgain(db: Db, user: User, personId: number): Promise<Said> {
	if (!isAllowed(user, 'accounts')) return notYours;
	return db.write(async (tx): Promise<Said> => {
		const account = await tx.rows(signIn).one({ personId });
		if (account) {
			if (account.closedAt !== null)
				return { ok: false, why: 'The account is closed. Open it again first.' };
			await mailPasswordLink(tx, personId, user);
			return { ok: true };
		}
		const invited = await tx.one(
			`SELECT 1 FROM account_link WHERE person_id = $personId AND kind = 'invite'`,
			{ personId }
		);
		if (!invited) return { ok: false, why: 'There is no such invitation. Load the page again.' };
		await sendInvitation(tx, user, personId);
		return { ok: true };
	});
}

/** Takes an invitation back: its link opens nothing, and the roles that came with it end. */
export async function endInvitation(db: Db, user: User, personId: number): Promise<Said> {
	if (!isAllowed(user, 'accounts')) return notYours;
	return db.write(async (tx): Promise<Said> => {
		if (await tx.rows(signIn).one({ personId }))
			return { ok: false, why: 'They have come in already. Close the account instead.' };
		await endAccountLinks(tx, personId);
		await tx.run(
			`DELETE FROM notice WHERE state = 'waiting' AND account_link_id IN (SELECT id FROM account_link WHERE person_id = $personId)`,
			{ personId }
		);
		await tx.run(
			`UPDATE account_link SET used_at = ends_at WHERE person_id = $personId AND kind = 'invite' AND used_at IS NULL`,
			{ personId }
		);
		await tx.run('DELETE FROM role WHERE person_id = $personId', { personId });
		await writeDown(tx, { act: 'invitation-ended', by: user, to: ['person', personId] });
		return { ok: true };
	});
}

/** Mails a link for a new password. */
export async function mailPasswordLink(
	tx: Query,
	personId: number,
	by: Pick<User, 'personId' | 'name'> | null
): Promise<void> {
	const { name } = await readDistrict(tx);
	const linkId = await makeAccountLink(tx, {
		...{ personId, kind: 'reset', madeBy: by?.personId ?? null }
	});
	await mailLink(tx, personId, linkId, {
		subject: `A new password at ${name}`,
		text: [
			by
				? `${by.name} has had this link sent to you, by which you choose a new password for Idle Courier.`
				: 'Somebody asked for a new password for your account at Idle Courier; if it was you, choose one here.',
			'The link is good once, for a day:\n{link}',
			'If it was not you, do nothing: your password stays as it is.'
		].join('\n\n')
	});
	await writeDown(tx, { act: 'password-forgotten', by, to: ['person', personId] });
}
