import { repliesView } from '$lib/server/desk/replies/replies';
import { services } from '$lib/server/services';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	const { db } = await services();
	return { view: await repliesView(db, locals.user!) };
};
