import { instant, nonce, text, whole } from './column';
import { table, type Row } from './table';

/** What a person may do here, from much to little. */
export const roles = ['coordinator', 'principal', 'office', 'teacher'] as const;
export type RoleName = (typeof roles)[number];

export const signIn = table('sign_in', 'Who may sign in, by which name and password.', {
	personId: whole().key().of('person'),
	userName: text().once(),
	passwordHash: text(),
	title: text()
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
		endsAt: instant().orNull()
	}
);
export const session = table(
	'session',
	'A browser that is signed in; the token itself is in its cookie only.',
	{
		tokenHash: text().key(),
		personId: whole().of('person'),
		endsAt: instant()
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
export type RoleRow = Row<typeof role>;
export type FamilyLinkRow = Row<typeof familyLink>;
