import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { sheetSchema } from '$lib/server/desk/sheet/sheet';
import { ask } from '$lib/server/planner/planner';
import { readJson } from '$lib/server/http/read-json';

const bodySchema = z.object({ sheet: sheetSchema, search: z.string().max(200) });

/** Readers as whom a sheet can be looked at. */
export const POST = async ({ request, locals }) => {
	const { sheet, search } = await readJson(request, bodySchema);
	return json(await ask('proofReaders', locals.user!, sheet, search));
};
