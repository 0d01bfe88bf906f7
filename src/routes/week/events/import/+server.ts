import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { ask } from '$lib/server/planner/planner';
import { readJson } from '$lib/server/http/read-json';

const bodySchema = z.object({
	text: z.string().max(3_000_000, 'The file is over 3 MB. Export a shorter stretch of time.'),
	as: z.enum(['events', 'closures']),
	take: z.boolean()
});

/** Reads a calendar file and says what it would bring; with `take`, brings it in. */
export const POST = async ({ request, locals }) => {
	const { text, as, take } = await readJson(request, bodySchema);
	const preview = await ask('importCalendar', locals.user!, text, as, take);
	if (take && as === 'closures') await ask('replanAhead');
	return json(preview);
};
