import { json } from '@sveltejs/kit';
import { courierStatus } from '$lib/server/desk/courier-status';
import { services } from '$lib/server/services';

/** For whatever watches over the machine: 200 while the web server has its database, 503 else; how the courier and its ways stand. */
export const GET = async () => {
	try {
		const { db } = await services();
		return json({ web: 'up', courier: await courierStatus(db) });
	} catch {
		return json({ web: 'without database' }, { status: 503 });
	}
};
