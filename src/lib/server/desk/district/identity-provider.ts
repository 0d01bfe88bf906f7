import { z } from 'zod';
import { writeDown, type LoggedValues } from '../../access/log';
import { isAllowed } from '../../access/may';
import type { User } from '../../access/user';
import type { Query } from '../../db/open';
import type { CameBack } from '../../gateway/identity';
import { isLoopback } from '../../gateway/network';
import { tryIdentity } from '../../gateway/try-identity';
import { fitsBy, keepIdentity, readIdentity, type IdentityProvider } from '../../identity';
import type { Said } from '../../said';
import { line } from '../hand/fields';
import { whoWouldBe } from '../work/outside';
import { notYours } from '../work/roles';
import type { Place } from './keep-tried';
import type { IdentityProviderView, Proven, TriedOut } from './types';

/** An issuer is an address without query and fragment (OpenID Connect Discovery 1.0 section 3), by https but for this very machine. */
const issuerSchema = line('The issuer', 300)
	.transform((typed) => typed.replace(/\/\.well-known\/openid-configuration$/, ''))
	.pipe(
		z
			.url({
				protocol: /^https?$/,
				error: 'The issuer is an address, as https://sign-in.example/district.'
			})
			.refine((url) => !/[?#@]/.test(url), 'The issuer is an address without ?, # and @ in it.')
			.refine(
				(url) => url.startsWith('https:') || isLoopback(url),
				'The issuer is an https address: without it, anybody on the way could sign in.'
			)
	);

export const identityProviderSchema = z.object({
	name: line('The name', 40).min(1, 'Write how colleagues call it.'),
	issuer: issuerSchema,
	clientId: line('The client id', 300).min(1, 'Write the client id that it gave you.'),
	/** Empty for the one that is kept. */
	password: z.string().max(1000).default(''),
	claim: line('The claim', 200).regex(
		/^[\w.:/-]{1,200}$/,
		'A claim is a word like email, sub or preferred_username.'
	),
	fits: z.enum(fitsBy, 'Say what it is compared with.'),
	unconfirmed: z.literal('yes').optional(),
	teachers: z.enum(['invited', 'roster'], 'Say whether teachers have to be invited.'),
	passwords: z.enum(['everybody', 'keepers'], 'Say who may use a password.')
});
type Input = z.infer<typeof identityProviderSchema>;

/** The identity provider as it is set now, without its secret; empty where there is none. */
export async function identityProvider({ db, key }: Place): Promise<IdentityProviderView> {
	const kept = await readIdentity(db, key);
	const known = (await db.one<{ n: number }>(
		'SELECT count(*) AS n FROM outside_name WHERE issuer = $issuer',
		{ issuer: kept?.issuer ?? '' }
	))!.n;
	if (!kept)
		return {
			...{ name: '', issuer: '', clientId: '', hasSecret: false, claim: 'email', fits: 'mail' },
			...{ unconfirmed: false, teachers: 'roster', passwords: 'everybody', state: 'none', known }
		};
	const { secret, shown, ...said } = kept;
	return { ...said, hasSecret: secret !== '', state: shown ? 'open' : 'to-prove', known };
}

const setDown = (tx: Query, user: User, after: LoggedValues): Promise<void> =>
	writeDown(tx, {
		...{ act: 'setting-changed', by: user },
		after: { chapter: 'identity-provider', ...after }
	});

/** The provider that a form says, with what of the one before goes on. */
function providerOf(input: Input, before: IdentityProvider | null): IdentityProvider {
	const { password, unconfirmed, ...said } = input;
	// A secret is handed to nobody but whom it was for.
	const same = before?.issuer === input.issuer && before.clientId === input.clientId;
	const provesTheSame = same && before.claim === input.claim && before.fits === input.fits;
	return {
		...said,
		secret: password || (same ? before.secret : ''),
		unconfirmed: unconfirmed === 'yes',
		shown: provesTheSame && before.shown
	};
}

/** Tries an identity provider as far as that goes without signing in, and keeps it where it answers as it should, or where it is to be kept all the same. */
export async function setIdentityProvider(
	{ db, key }: Place,
	user: User,
	input: Input,
	keepAnyway: boolean
): Promise<Said<TriedOut>> {
	if (!isAllowed(user, 'settings')) return notYours;
	const provider = providerOf(input, await readIdentity(db, key));
	const tried = await tryIdentity(provider);
	const kept = tried.works || keepAnyway;
	if (kept)
		await db.write(async (tx) => {
			await keepIdentity(tx, key, provider);
			await setDown(tx, user, { shown: provider.shown });
		});
	return { ok: true, ...tried, kept };
}

/** Takes it off the sign-in page; forgotten, or only until somebody has come back from it again. */
export async function closeIdentityProvider(
	{ db, key }: Place,
	user: User,
	how: 'off' | 'forget'
): Promise<Said> {
	if (!isAllowed(user, 'settings')) return notYours;
	return db.write(async (tx): Promise<Said> => {
		const provider = await readIdentity(tx, key);
		if (!provider) return { ok: false, why: 'None is set. Load the page again.' };
		await keepIdentity(tx, key, how === 'forget' ? null : { ...provider, shown: false });
		await setDown(tx, user, { shown: false });
		return { ok: true };
	});
}

/** The most claims that are shown, and of each value. */
const [mostClaims, mostOfOne] = [30, 200];

/**
 * Somebody who may change the settings has come back from it, to try it. Where they are found to be
 * themselves, it stands on the sign-in page from now on.
 */
export async function provenIdentity(
	{ db, key }: Place,
	user: User,
	came: CameBack
): Promise<Proven> {
	if (!isAllowed(user, 'settings'))
		return { claims: [], who: null, open: false, why: notYours.why };
	const claims = Object.entries(came.claims)
		.filter(([, value]) => ['string', 'number', 'boolean'].includes(typeof value))
		.slice(0, mostClaims)
		.map(([name, value]) => ({
			name: name.slice(0, mostOfOne),
			value: String(value).slice(0, mostOfOne)
		}));
	return db.write(async (tx): Promise<Proven> => {
		const provider = await readIdentity(tx, key);
		if (!provider) return { claims, who: null, open: false, why: 'None is set any more.' };
		const who = await whoWouldBe(tx, provider, came);
		if (!who.ok) return { claims, who: null, open: provider.shown, why: who.why };
		if (who.personId !== user.personId)
			return { claims, who: who.name, open: provider.shown, why: '' };
		if (!provider.shown) {
			await keepIdentity(tx, key, { ...provider, shown: true });
			await setDown(tx, user, { shown: true });
		}
		return { claims, who: who.name, open: true, why: '' };
	});
}
