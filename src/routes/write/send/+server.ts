import { json } from '@sveltejs/kit';
import { ask } from '$lib/server/planner/planner';
import { z } from 'zod';
import { sheetSchema } from '$lib/server/desk/sheet/sheet';
import { readJson } from '$lib/server/http/read-json';

const bodySchema = z.object({ sheet: sheetSchema, copiesSeen: z.number().int().min(0) });

/** Sends a sheet. 409 with the standing check where something blocks; the sheet stays as it is. */
export const POST = async ({ request, locals }) => {
	const { sheet, copiesSeen } = await readJson(request, bodySchema);
	const result = await ask('schedule', locals.user!, sheet, copiesSeen);
	return json(result, { status: result.ok ? 200 : 409 });
};
