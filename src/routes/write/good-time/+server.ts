import { json } from '@sveltejs/kit';
import { sendingSchema } from '$lib/server/desk/sheet/sheet';
import { ask } from '$lib/server/planner/planner';
import { readJson } from '$lib/server/http/read-json';

/** When people like those of a sheet read soonest, as a hint. */
export const POST = async ({ request, locals }) =>
	json({ hint: await ask('goodTime', locals.user!, await readJson(request, sendingSchema)) });
