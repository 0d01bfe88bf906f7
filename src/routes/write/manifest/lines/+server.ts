import { json } from '@sveltejs/kit';
import { ask } from '$lib/server/planner/planner';
import { manifestFilterSchema } from '$lib/server/desk/manifest';
import { sendingSchema } from '$lib/server/desk/sheet';
import { readJson } from '$lib/server/http/read-json';

const bodySchema = sendingSchema.extend({ filter: manifestFilterSchema });

/** The part of a sheet's manifest that fits a filter. Nothing is written down. */
export const POST = async ({ request, locals }) => {
	const { filter, ...sending } = await readJson(request, bodySchema);
	return json(await ask('manifest', locals.user!, sending, filter));
};
