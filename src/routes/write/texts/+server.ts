import { json } from '@sveltejs/kit';
import { ask } from '$lib/server/planner/planner';
import { sheetSchema } from '$lib/server/desk/sheet/sheet';
import { readJson } from '$lib/server/http/read-json';

/** The true lengths of all texts of a sheet; null where none is sent. */
export const POST = async ({ request, locals }) =>
	json(await ask('textLengths', locals.user!, await readJson(request, sheetSchema)));
