import { flag, instant, nonce, text, whole } from './column';
import { table, type Row } from './table';

/** What a person is here, from much to little; what each can do is the district's to say. */
export const roles = [
	'coordinator',
	'principal',
	'office',
	'teacher',
	'helper',
	'operator'
] as const;
export type RoleName = (typeof roles)[number];

export const signIn = table('sign_in', 'Who may sign in, by which name and password.', {
	personId: whole().key().of('person'),
	userName: text().once(),
	passwordHash: text(),
	title: text(),
	closedAt: instant().orNull()
});
export const roleRight = table('role_right', 'What a role can do.', {
	role: text<RoleName>().key(),
	can: text().key()
});
export const role = table(
	'role',
	'What a person is here: for a section, a school, or (neither) the district; from and until when.',
	{
		id: whole().neverTwice(),
		personId: whole().of('person'),
		role: text<RoleName>(),
		schoolId: whole().of('school').orNull(),
		sectionId: whole().of('section').orNull(),
		startsAt: instant(),
		endsAt: instant().orNull(),
		/** Nothing where it was given before this was written down. */
		givenBy: whole().of('person').orNull()
	}
);
export const session = table(
	'session',
	'A browser that is signed in; the token itself is in its cookie only.',
	{
		/** By which it is spoken of; the token itself is nobody’s to see. */
		id: whole().neverTwice(),
		tokenHash: text().once(),
		personId: whole().of('person'),
		beganAt: instant(),
		/** When it last asked for something, to the minute. */
		seenAt: instant(),
		endsAt: instant(),
		/** "Firefox on Windows", as the browser says of itself. */
		browser: text(),
		/** The network address it began from. */
		address: text(),
		/** It opens nothing before the second factor has come. */
		waitsFactor: flag().usually(0),
		/** The identity provider says that it has asked for a second factor itself. */
		factorOutside: flag().usually(0)
	}
);
export const outsideName = table(
	'outside_name',
	'Who somebody is at an identity provider: its issuer and subject, which stay when names and addresses change.',
	{
		issuer: text().key(),
		subject: text().key(),
		personId: whole().of('person'),
		since: instant()
	}
);
export const accountLink = table(
	'account_link',
	'A link by which somebody sets a password: invited, or since it was forgotten. It is good once.',
	{
		id: whole().neverTwice(),
		personId: whole().of('person'),
		kind: text<'invite' | 'reset'>(),
		/** What the link is made from, with the key. */
		nonce: nonce(),
		madeAt: instant(),
		/** Nothing where they asked for it themselves. */
		madeBy: whole().of('person').orNull(),
		endsAt: instant(),
		usedAt: instant().orNull()
	}
);
export const secondFactor = table(
	'second_factor',
	'The secret of a one-time code (RFC 6238), sealed under the link key.',
	{
		personId: whole().key().of('person'),
		secret: text(),
		/** Nothing before a first code has shown that it works. */
		confirmedAt: instant().orNull(),
		/** The newest step whose code was taken: none is good twice. */
		lastStep: whole().usually(0)
	}
);
export const recoveryCode = table(
	'recovery_code',
	'A code that stands in for the second factor once; the code itself is on its owner’s paper only.',
	{
		codeHash: text().key(),
		personId: whole().of('person'),
		usedAt: instant().orNull()
	}
);
export const seenPlace = table(
	'seen_place',
	'A browser and network that somebody has come in from, as a hash: another one is told to them.',
	{
		personId: whole().key().of('person'),
		placeHash: text().key(),
		seenAt: instant()
	}
);
export const familyLink = table(
	'family_link',
	'A person’s own link to their inbox. Links inside copies are on the delivery.',
	{
		id: whole().neverTwice(),
		tokenHash: text().once(),
		personId: whole().of('person'),
		endsAt: instant(),
		nonce: nonce(),
		madeBy: whole().of('person').orNull()
	}
);

export const linkEnd = table(
	'link_end',
	'A link that was ended before its time; or all of a person’s from before an instant.',
	{
		id: whole().neverTwice(),
		personId: whole().of('person'),
		/** Of one link; nothing where all of before are meant. */
		tokenHash: text().orNull(),
		beforeAt: instant().orNull(),
		at: instant(),
		/** Nothing where its reader did. */
		byId: whole().of('person').orNull()
	}
);

export type SignInRow = Row<typeof signIn>;
export type SessionRow = Row<typeof session>;
export type RoleRow = Row<typeof role>;
export type FamilyLinkRow = Row<typeof familyLink>;
