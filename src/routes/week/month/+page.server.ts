import { readDistrict } from '$lib/server/db/district';
import { askedDay } from '$lib/server/http/asked-day';
import { ask } from '$lib/server/planner/planner';
import { services } from '$lib/server/services';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, url }) => {
	const { db } = await services();
	const { zone } = await readDistrict(db);
	const at = askedDay(url, zone);
	return { view: await ask('month', locals.user!, at) };
};
