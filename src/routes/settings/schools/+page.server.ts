import { schoolLines } from '$lib/server/desk/district/school-lines';
import { setting } from '$lib/server/http/may-set';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	const { db } = await setting(locals.user!);
	return { schools: await schoolLines(db) };
};
