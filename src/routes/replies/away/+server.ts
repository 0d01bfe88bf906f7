import { json } from '@sveltejs/kit';
import { awaySchema, endAway, setAway } from '$lib/server/desk/replies/away';
import { readJson } from '$lib/server/http/read-json';
import { services } from '$lib/server/services';

/** Sets an away note of whoever is signed in. 409 with why where it cannot be. */
export const POST = async ({ request, locals }) => {
	const wanted = await readJson(request, awaySchema);
	const { db } = await services();
	const why = await setAway(db, locals.user!, wanted);
	return json(why === null ? { ok: true } : { ok: false, why }, {
		status: why === null ? 200 : 409
	});
};

/** Ends it. */
export const DELETE = async ({ locals }) => {
	const { db } = await services();
	await endAway(db, locals.user!);
	return json({ ok: true });
};
