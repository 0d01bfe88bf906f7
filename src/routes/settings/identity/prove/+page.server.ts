import { error, redirect } from '@sveltejs/kit';
import { beginSignIn, NotSignedIn } from '$lib/server/gateway/identity';
import { setting } from '$lib/server/http/may-set';
import { backAddress, keepBegun } from '$lib/server/http/outside';
import { readIdentity } from '$lib/server/identity';
import type { PageServerLoad } from './$types';

/** Sends whoever changes the settings to the identity provider, to see whom it says that they are. */
export const load: PageServerLoad = async ({ locals, cookies, isDataRequest }) => {
	const place = await setting(locals.user!);
	const provider = await readIdentity(place.db, place.key);
	if (!provider) error(404, 'No identity provider is set yet.');
	// What is only looked ahead begins nothing.
	if (isDataRequest) return { why: '' };
	try {
		const begun = await beginSignIn(provider, backAddress(place.settings));
		keepBegun(cookies, place, { checks: begun.checks, why: 'try', to: '/settings/identity' });
		redirect(303, begun.to);
	} catch (failed) {
		if (!(failed instanceof NotSignedIn)) throw failed;
		return { why: failed.message };
	}
};
