import { firstSteps } from '$lib/server/desk/district/first-steps';
import { setting } from '$lib/server/http/may-set';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	const { db, key, settings } = await setting(locals.user!);
	return { steps: await firstSteps(db, key, settings) };
};
