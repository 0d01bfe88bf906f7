import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { ask } from '$lib/server/planner/planner';
import { readJson } from '$lib/server/http/read-json';

const bodySchema = z.object({ date: z.iso.date() });

/** The families with most messages on a day, and what they are. */
export const POST = async ({ request, locals }) => {
	const { date } = await readJson(request, bodySchema);
	return json(await ask('familiesOn', locals.user!, date));
};
