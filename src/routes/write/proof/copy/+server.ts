import { error, json } from '@sveltejs/kit';
import { z } from 'zod';
import { sheetSchema } from '$lib/server/desk/sheet/sheet';
import { ask } from '$lib/server/planner/planner';
import { readJson } from '$lib/server/http/read-json';

const bodySchema = z.object({ sheet: sheetSchema, personId: z.number().int().positive() });

/** Every copy of one reader. */
export const POST = async ({ request, locals }) => {
	const { sheet, personId } = await readJson(request, bodySchema);
	const proof = await ask('proofOf', locals.user!, sheet, personId);
	if (!proof) error(404, 'The sheet does not go to that person. Choose another one.');
	return json(proof);
};
