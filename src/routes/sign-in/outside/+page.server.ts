import { error } from '@sveltejs/kit';
import { sendOutside } from '$lib/server/http/outside';
import { ownPath } from '$lib/server/http/own-path';
import { readIdentity } from '$lib/server/identity';
import { services } from '$lib/server/services';
import type { PageServerLoad } from './$types';

/** Sends the browser to the identity provider; where that cannot be, the page says why. */
export const load: PageServerLoad = async ({ url, cookies }) => {
	const place = await services();
	const provider = await readIdentity(place.db, place.key);
	if (!provider?.shown) error(404, 'There is no sign-in of the district’s own here.');
	const to = ownPath(url.searchParams.get('to'));
	const why = await sendOutside(cookies, place, provider, { why: 'sign-in', to });
	return { why, name: provider.name };
};
