import { json } from '@sveltejs/kit';
import { courierHealth } from '$lib/server/desk/courier-status';
import { services } from '$lib/server/services';

/** For whatever watches over the machine: 200 while the web server has its database, 503 else; how the courier and its ways stand. */
export const GET = async () => {
	try {
		const { db } = await services();
		const { atWork, down, beatAt, ways, machineNow } = await courierHealth(db);
		return json({
			web: 'up',
			courier: {
				atWork,
				down,
				silentMs: beatAt === null ? null : machineNow - beatAt,
				ways: ways.map(({ way, working, due, putOff, leftInMinute }) => ({
					way,
					working,
					due,
					putOff,
					leftInMinute
				}))
			}
		});
	} catch {
		return json({ web: 'without database' }, { status: 503 });
	}
};
