import { json } from '@sveltejs/kit';
import { ownNumberSchema, setOwnNumber } from '$lib/server/desk/plan/own-number';
import { readJson } from '$lib/server/http/read-json';
import { services } from '$lib/server/services';

/** Puts the number on file to which one's own proofs go. 409 where it is none. */
export const POST = async ({ request, locals }) => {
	const { number } = await readJson(request, ownNumberSchema);
	const { db } = await services();
	const set = await setOwnNumber(db, locals.user!, number);
	return json(set, { status: set.ok ? 200 : 409 });
};
