import { error, json } from '@sveltejs/kit';
import { z } from 'zod';
import { may } from '$lib/server/access/may';
import { tryFeed } from '$lib/server/desk/feeds/try-feed';
import { readJson } from '$lib/server/http/read-json';
import { services } from '$lib/server/services';

const bodySchema = z.object({
	address: z.string().trim().min(1, 'Put in the address of a feed.').max(2000)
});

/** Tries a feed: what is there now, or why it cannot be read. */
export const POST = async ({ request, locals }) => {
	const { address } = await readJson(request, bodySchema);
	if (!may(locals.user!, 'schedule')) error(403, 'You may not send anything.');
	const { db, settings } = await services();
	return json(await tryFeed(db, address, settings.feedsInside));
};
