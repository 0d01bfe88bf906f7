import { howGood } from '$lib/server/desk/expect/how-good';
import { services } from '$lib/server/services';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	const { db } = await services();
	return { good: await howGood(db, locals.user!) };
};
