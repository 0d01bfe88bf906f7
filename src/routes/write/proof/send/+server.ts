import { error, json } from '@sveltejs/kit';
import { z } from 'zod';
import { proofState } from '$lib/server/desk/plan/proof';
import { waySchema } from '$lib/core/roster/way-schema';
import { sheetSchema } from '$lib/server/desk/sheet/sheet';
import { ask } from '$lib/server/planner/planner';
import { readJson } from '$lib/server/http/read-json';
import { services } from '$lib/server/services';

const bodySchema = z.object({
	sheet: sheetSchema,
	personId: z.number().int().positive(),
	way: waySchema
});
const idSchema = z.coerce.number().int().positive();

/** Sends a proof to whoever is signed in. 409 where it cannot be, with the reason. */
export const POST = async ({ request, locals }) => {
	const { sheet, personId, way } = await readJson(request, bodySchema);
	const sent = await ask('sendProof', locals.user!, { sheet, personId, way });
	return json(sent, { status: sent.ok ? 200 : 409 });
};

/** What became of a proof. */
export const GET = async ({ url, locals }) => {
	const id = idSchema.safeParse(url.searchParams.get('id'));
	const { db } = await services();
	const state = id.success ? await proofState(db, locals.user!, id.data) : null;
	if (!state) error(404, 'There is no such proof of yours.');
	return json(state);
};
