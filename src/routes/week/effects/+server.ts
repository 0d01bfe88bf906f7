import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { ask } from '$lib/server/planner/planner';
import { readJson } from '$lib/server/http/read-json';

const bodySchema = z.object({ dispatchId: z.number().int().positive(), from: z.iso.date() });

/** What moving a dispatch to each day of a week does to the family load. */
export const POST = async ({ request, locals }) => {
	const { dispatchId, from } = await readJson(request, bodySchema);
	return json(await ask('moveEffects', locals.user!, dispatchId, from));
};
