import { sectionFilterSchema, sectionList } from '$lib/server/desk/places/sections';
import { services } from '$lib/server/services';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ url, locals }) => {
	const filter = sectionFilterSchema.parse(Object.fromEntries(url.searchParams));
	const { db } = await services();
	return { list: await sectionList(db, locals.user!, filter), filter };
};
