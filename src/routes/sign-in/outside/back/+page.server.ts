import { redirect } from '@sveltejs/kit';
import { mayTry, signedIn } from '$lib/server/access/guessing';
import { may } from '$lib/server/access/may';
import { sessionOf } from '$lib/server/access/sessions';
import { provenIdentity } from '$lib/server/desk/district/identity-provider';
import { tellElsewhere } from '$lib/server/desk/work/tell-owner';
import { signInOutside } from '$lib/server/desk/work/outside';
import { endSignIn, NotSignedIn, type CameBack } from '$lib/server/gateway/identity';
import { keepSession, sessionCookie } from '$lib/server/http/cookie';
import { backAddress, takeBegun } from '$lib/server/http/outside';
import { readIdentity } from '$lib/server/identity';
import { services } from '$lib/server/services';
import type { PageServerLoad } from './$types';

/** Where the identity provider sends browsers back to: they come in, or read why not. */
export const load: PageServerLoad = async ({ url, cookies, request, getClientAddress }) => {
	const place = await services();
	const { db, key, settings } = place;
	const provider = await readIdentity(db, key);
	const name = provider?.name ?? 'The identity provider';
	const refused = (why: string) => ({ name, why, tried: null });
	const begun = takeBegun(cookies, place);
	if (!provider || !begun)
		return refused(
			'No sign-in was begun in this browser, or it took too long. It may also be that cookies are turned off.'
		);
	// Whoever comes back with codes that are none is slowed by their address; a school that comes in at eight from one is not.
	const address = getClientAddress();
	const guess = `outside ${begun.checks.state}`;
	if ((await mayTry(guess, address)) > 0)
		return refused('There were too many tries. Wait a few minutes, then begin once more.');
	let came: CameBack;
	try {
		const at = new URL(backAddress(settings));
		at.search = url.search;
		came = await endSignIn(provider, at, begun.checks);
	} catch (failed) {
		if (!(failed instanceof NotSignedIn)) throw failed;
		return refused(failed.message);
	}
	const before = cookies.get(sessionCookie(settings));
	if (begun.why === 'try') {
		const session = await sessionOf(db, before);
		if (!session || !may(session.user, 'settings'))
			return refused('Your session here has ended. Sign in, and try it once more.');
		await signedIn(guess, address);
		return { name, why: '', tried: await provenIdentity(place, session.user, came) };
	}
	if (!provider.shown) return refused('It is not open to sign in by at the moment.');
	const agent = request.headers.get('user-agent') ?? '';
	const session = await signInOutside(db, provider, came, { address, agent, before });
	if (!session.ok) return refused(session.why);
	await signedIn(guess, address);
	keepSession(cookies, settings, session);
	if (session.waitsFactor) redirect(303, `/sign-in/factor?to=${encodeURIComponent(begun.to)}`);
	if (session.fromElsewhere) await tellElsewhere(db, session.personId, session.fromElsewhere);
	redirect(303, begun.to);
};
