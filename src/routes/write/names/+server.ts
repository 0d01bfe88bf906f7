import { json } from '@sveltejs/kit';
import { ask } from '$lib/server/planner/planner';
import { z } from 'zod';
import { sendingSchema } from '$lib/server/desk/sheet/sheet';
import { readJson } from '$lib/server/http/read-json';
import { doors } from '$lib/server/desk/plan/types';

const bodySchema = sendingSchema.extend({ door: z.enum(doors) });

/** The names behind one number of the tally. */
export const POST = async ({ request, locals }) => {
	const { door, ...sending } = await readJson(request, bodySchema);
	return json(await ask('names', locals.user!, sending, door));
};
