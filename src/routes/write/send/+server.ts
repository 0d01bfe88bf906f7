import { json } from '@sveltejs/kit';
import { feedOf } from '$lib/core/time/timing';
import { ask } from '$lib/server/planner/planner';
import { z } from 'zod';
import { sheetSchema } from '$lib/server/desk/sheet/sheet';
import { readJson } from '$lib/server/http/read-json';

const bodySchema = z.object({ sheet: sheetSchema, copiesSeen: z.number().int().min(0) });

/** Sends a sheet, or lets it wait for a marker or a feed. 409 with the standing check where something blocks; the sheet stays as it is. */
export const POST = async ({ request, locals }) => {
	const { sheet, copiesSeen } = await readJson(request, bodySchema);
	const result =
		sheet.timing.when.kind === 'gain' || feedOf(sheet.timing) !== null
			? await ask('putStanding', locals.user!, sheet, copiesSeen)
			: await ask('schedule', locals.user!, sheet, copiesSeen);
	return json(result, { status: result.ok ? 200 : 409 });
};
