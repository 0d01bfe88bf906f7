import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { idsSchema, settle } from '$lib/server/desk/replies/act';
import { readJson } from '$lib/server/http/read-json';
import { services } from '$lib/server/services';

/** Settles several conversations together. */
export const POST = async ({ request, locals }) => {
	const { ids } = await readJson(request, z.object({ ids: idsSchema }));
	const { db } = await services();
	return json(await settle(db, locals.user!, ids));
};
