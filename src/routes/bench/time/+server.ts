import { error, json } from '@sveltejs/kit';
import { now } from '$lib/server/clock';
import { services } from '$lib/server/services';

/** The time of the demo, for its stand-ins. */
export const GET = async () => {
	const { db, settings } = await services();
	if (!settings.demo) error(404, 'There is nothing at this address.');
	return json({ now: await now(db) });
};
