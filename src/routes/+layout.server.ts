import { services } from '$lib/server/services';
import { now } from '$lib/server/clock';
import { readDistrict } from '$lib/server/db/district';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = async ({ locals }) => {
	if (!locals.user) return { frame: null };
	const { db, settings } = await services();
	const { zone, name } = await readDistrict(db);
	return {
		frame: {
			user: { name: locals.user.name, title: locals.user.title },
			zone,
			district: name,
			demo: settings.demo,
			now: await now(db)
		}
	};
};
