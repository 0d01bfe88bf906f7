import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { localTimeSchema } from '$lib/core/time/timing';
import { ask } from '$lib/server/planner/planner';
import { readJson } from '$lib/server/http/read-json';

const bodySchema = z.object({
	dispatchId: z.number().int().positive(),
	to: localTimeSchema,
	base: z.number()
});

/** Moves a dispatch to another local time; 409 where it cannot be. */
export const POST = async ({ request, locals }) => {
	const { dispatchId, to, base } = await readJson(request, bodySchema);
	const moved = await ask('move', locals.user!, dispatchId, to, base);
	return json(moved, { status: moved.ok ? 200 : 409 });
};
