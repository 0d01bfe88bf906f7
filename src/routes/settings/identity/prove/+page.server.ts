import { error } from '@sveltejs/kit';
import { setting } from '$lib/server/http/may-set';
import { sendOutside } from '$lib/server/http/outside';
import { readIdentity } from '$lib/server/identity';
import type { PageServerLoad } from './$types';

/** Sends whoever changes the settings to the identity provider, to see whom it says that they are. */
export const load: PageServerLoad = async ({ locals, cookies }) => {
	const place = await setting(locals.user!);
	const provider = await readIdentity(place.db, place.key);
	if (!provider) error(404, 'No identity provider is set yet.');
	const to = '/settings/identity';
	return { why: await sendOutside(cookies, place, provider, { why: 'try', to }) };
};
