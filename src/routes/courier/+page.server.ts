import { courierHealth } from '$lib/server/desk/courier-status';
import { services } from '$lib/server/services';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ depends }) => {
	depends('courier');
	const { db } = await services();
	return { health: await courierHealth(db) };
};
