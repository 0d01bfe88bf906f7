import { error, redirect } from '@sveltejs/kit';
import { beginSignIn, NotSignedIn } from '$lib/server/gateway/identity';
import { backAddress, keepBegun } from '$lib/server/http/outside';
import { ownPath } from '$lib/server/http/own-path';
import { readIdentity } from '$lib/server/identity';
import { services } from '$lib/server/services';
import type { PageServerLoad } from './$types';

/** Sends the browser to the identity provider; where that cannot be, the page says why. */
export const load: PageServerLoad = async ({ url, cookies, isDataRequest }) => {
	const place = await services();
	const provider = await readIdentity(place.db, place.key);
	if (!provider?.shown) error(404, 'There is no sign-in of the district’s own here.');
	const to = ownPath(url.searchParams.get('to'));
	// What is only looked ahead begins nothing.
	if (isDataRequest) return { why: '', name: provider.name };
	try {
		const begun = await beginSignIn(provider, backAddress(place.settings));
		keepBegun(cookies, place, { checks: begun.checks, why: 'sign-in', to });
		redirect(303, begun.to);
	} catch (failed) {
		if (!(failed instanceof NotSignedIn)) throw failed;
		return { why: failed.message, name: provider.name };
	}
};
