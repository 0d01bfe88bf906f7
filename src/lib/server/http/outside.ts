import { redirect, type Cookies } from '@sveltejs/kit';
import { z } from 'zod';
import { seal, unseal } from '../access/seal';
import { beginSignIn, NotSignedIn, type BegunChecks } from '../gateway/identity';
import type { IdentityProvider } from '../identity';
import type { Settings } from '../settings';
import { isSecure } from './cookie';

/** Our address that the identity provider sends browsers back to. */
const backPath = '/sign-in/outside/back';
export const backAddress = ({ publicUrl }: Pick<Settings, 'publicUrl'>): string =>
	publicUrl + backPath;

/** A sign-in that was begun in this browser. */
interface Begun {
	readonly checks: BegunChecks;
	/** To sign in, or to see whom the provider says that somebody is. */
	readonly why: 'sign-in' | 'try';
	/** Where to go afterwards. */
	readonly to: string;
}

/** What a sign-in outside stands on. */
interface Place {
	readonly key: Buffer;
	readonly settings: Settings;
}

const purpose = 'outside sign-in';
/** How long it may take: reading a mail, finding a phone. */
const seconds = 900;
const begunSchema = z.object({
	checks: z.object({ state: z.string(), nonce: z.string(), verifier: z.string() }),
	why: z.enum(['sign-in', 'try']),
	to: z.string(),
	at: z.number()
});

const nameOf = (settings: Pick<Settings, 'publicUrl'>): string =>
	isSecure(settings) ? '__Host-outside' : 'outside';

/** Keeps a sign-in that was begun in the browser it was begun in, sealed: nobody else can end it (RFC 9700 section 4.7). */
const keepBegun = (cookies: Cookies, { key, settings }: Place, begun: Begun): void =>
	cookies.set(nameOf(settings), seal(key, purpose, JSON.stringify({ ...begun, at: Date.now() })), {
		...{ path: '/', httpOnly: true, secure: isSecure(settings), maxAge: seconds },
		// The provider's page leads back here: a cookie that is strict would not come along.
		sameSite: 'lax'
	});

/** Sends the browser to the identity provider; where that cannot be, why. */
export async function sendOutside(
	cookies: Cookies,
	place: Place,
	provider: IdentityProvider,
	to: Omit<Begun, 'checks'>
): Promise<string> {
	const begun = await beginSignIn(provider, backAddress(place.settings)).catch((error: unknown) => {
		if (error instanceof NotSignedIn) return error;
		throw error;
	});
	if (begun instanceof NotSignedIn) return begun.message;
	keepBegun(cookies, place, { ...to, checks: begun.checks });
	redirect(303, begun.to);
}

/** The sign-in that was begun in this browser, once; null where there is none, or it took too long. */
export function takeBegun(cookies: Cookies, { key, settings }: Place): Begun | null {
	const name = nameOf(settings);
	const sealed = cookies.get(name);
	if (sealed === undefined) return null;
	cookies.delete(name, { path: '/', secure: isSecure(settings) });
	const open = unseal(key, purpose, sealed);
	if (open === null) return null;
	// One that an older version of ours has begun is begun once more.
	const read = begunSchema.safeParse(JSON.parse(open));
	if (!read.success) return null;
	const { at, ...begun } = read.data;
	return Date.now() - at > seconds * 1000 ? null : begun;
}
