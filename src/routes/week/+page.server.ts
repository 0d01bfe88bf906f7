import { courierStatus } from '$lib/server/desk/office/courier-status';
import { askedDay } from '$lib/server/http/asked-day';
import { ask } from '$lib/server/planner/planner';
import { workZone } from '$lib/server/access/work-clock';
import { services } from '$lib/server/services';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, url }) => {
	const { db } = await services();
	const zone = await workZone(db, locals.user!);
	const at = askedDay(url, zone);
	return {
		userId: locals.user!.personId,
		view: await ask('week', locals.user!, at),
		courier: await courierStatus(db)
	};
};
