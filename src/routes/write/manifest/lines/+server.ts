import { json } from '@sveltejs/kit';
import { ask } from '$lib/server/planner/planner';
import { sendingSchema } from '$lib/server/desk/sheet/sheet';
import { readJson } from '$lib/server/http/read-json';
import { manifestFilterSchema } from '$lib/server/desk/plan/types';
import { writtenSchema } from '$lib/server/desk/plan/manifest-view';

const bodySchema = sendingSchema.extend({ written: writtenSchema, filter: manifestFilterSchema });

/** The part of a sheet's manifest that fits a filter. Nothing is written down. */
export const POST = async ({ request, locals }) => {
	const { filter, written, ...sending } = await readJson(request, bodySchema);
	return json(await ask('manifest', locals.user!, sending, written, filter));
};
