import { z } from 'zod';
import { seal, unseal } from './access/seal';
import { readSetting, writeSetting } from './db/district';
import type { Query } from './db/open';

/** By what of ours a claim is compared: a mail address, the user name, or the number that the district gives each person. */
export const fitsBy = ['mail', 'user-name', 'number'] as const;

/** As it is kept: the secret is sealed, so that the database alone opens nothing. */
const keptSchema = z.object({
	/** What stands on the button: "Harbor Sign-on". */
	name: z.string().min(1),
	issuer: z.url(),
	clientId: z.string().min(1),
	/** Empty where the provider knows us by the code alone (PKCE, RFC 7636). */
	secret: z.string(),
	/** The claim by which a person is found the first time. */
	claim: z.string().min(1),
	fits: z.enum(fitsBy),
	/** Whether an address is taken that the provider does not say it has confirmed. */
	unconfirmed: z.boolean(),
	/** Whether teachers of the roster come in without being invited. */
	teachers: z.enum(['invited', 'roster']),
	/** Whether everybody may also come in by a password, or only who looks after settings and accounts. */
	passwords: z.enum(['everybody', 'keepers']),
	/** It stands on the page to sign in: not before somebody has come back from it as themselves. */
	shown: z.boolean()
});

/** The district's identity provider (OpenID Connect Core 1.0). */
export type IdentityProvider = z.infer<typeof keptSchema>;

const settingKey = 'identity-provider';
const purpose = 'identity provider';

/** The identity provider with its secret open; null where there is none. */
export async function readIdentity(db: Query, key: Buffer): Promise<IdentityProvider | null> {
	const value = await readSetting(db, settingKey);
	if (value === undefined || value === null) return null;
	const kept = keptSchema.parse(value);
	// What was sealed under another key, as in a database that was put back without its own, opens nothing.
	return { ...kept, secret: kept.secret === '' ? '' : (unseal(key, purpose, kept.secret) ?? '') };
}

/** Keeps the identity provider; null where there is to be none. */
export const keepIdentity = (
	tx: Query,
	key: Buffer,
	provider: IdentityProvider | null
): Promise<void> =>
	writeSetting(
		tx,
		settingKey,
		provider && {
			...provider,
			secret: provider.secret === '' ? '' : seal(key, purpose, provider.secret)
		}
	);

/** What whoever signs in is told of it: without its secret. Null where it does not stand on the page. */
export async function shownIdentity(
	db: Query
): Promise<Pick<IdentityProvider, 'name' | 'passwords'> | null> {
	const value = await readSetting(db, settingKey);
	if (value === undefined || value === null) return null;
	const { name, passwords, shown } = keptSchema.parse(value);
	return shown ? { name, passwords } : null;
}
