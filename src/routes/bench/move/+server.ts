import { error, json } from '@sveltejs/kit';
import { z } from 'zod';
import { moveOn } from '$lib/server/desk/office/bench-clock';
import { services } from '$lib/server/services';
import { readJson } from '$lib/server/http/read-json';

const bodySchema = z.object({ by: z.enum(['minute', 'hour', 'next']) });

/** Moves the bench clock on; only in the demo. */
export const POST = async ({ request }) => {
	const { db, settings } = await services();
	if (!settings.demo) error(404, 'There is nothing at this address.');
	const { by } = await readJson(request, bodySchema);
	return json(await moveOn(db, by));
};
