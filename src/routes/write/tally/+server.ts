import { json } from '@sveltejs/kit';
import { ask } from '$lib/server/planner/planner';
import { sheetSchema } from '$lib/server/desk/sheet/sheet';
import { readJson } from '$lib/server/http/read-json';

/** How the sheet lands, as it is now. Nothing is written down. */
export const POST = async ({ request, locals }) =>
	json(await ask('landing', locals.user!, await readJson(request, sheetSchema)));
