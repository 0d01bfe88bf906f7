import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { sheetSchema } from '$lib/server/desk/sheet/sheet';
import { ask } from '$lib/server/planner/planner';
import { readJson } from '$lib/server/http/read-json';

const bodySchema = z.object({ sheet: sheetSchema, base: z.number().int().nullable() });

/** Saves a sheet as a draft. 409 where another window was quicker, or it has been sent. */
export const POST = async ({ request, locals }) => {
	const { sheet, base } = await readJson(request, bodySchema);
	const saved = await ask('saveDraft', locals.user!, sheet, base);
	return json(saved, { status: saved.ok ? 200 : 409 });
};
