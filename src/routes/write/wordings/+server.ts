import { json } from '@sveltejs/kit';
import { keepWording, keepWordingSchema, keptWordings } from '$lib/server/desk/sheet/kept-wordings';
import { readJson } from '$lib/server/http/read-json';
import { services } from '$lib/server/services';

/** The wordings that can be begun from. */
export const GET = async ({ locals }) =>
	json(await keptWordings((await services()).db, locals.user!));

/** Keeps a wording under a name. */
export const POST = async ({ request, locals }) => {
	const { name, wording } = await readJson(request, keepWordingSchema);
	const { db } = await services();
	await keepWording(db, locals.user!, name, wording);
	return json(await keptWordings(db, locals.user!));
};
