import { json } from '@sveltejs/kit';
import { ask } from '$lib/server/planner/planner';
import { sheetSchema } from '$lib/server/desk/sheet/sheet';
import { readJson } from '$lib/server/http/read-json';

/** What is to be expected of the sheet, by its own ways and by others. Nothing is written down. */
export const POST = async ({ request, locals }) =>
	json(await ask('whatToExpect', locals.user!, await readJson(request, sheetSchema)));
