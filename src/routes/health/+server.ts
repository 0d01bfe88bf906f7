import { json } from '@sveltejs/kit';
import { courierHealth } from '$lib/server/desk/office/courier-status';
import { diskRoom } from '$lib/server/disk';
import { services } from '$lib/server/services';

/** For whatever watches over the machine: 200 while the web server has its database, 503 else; how the courier and its ways stand. */
export const GET = async () => {
	try {
		const { db, settings } = await services();
		const { atWork, down, held, beatAt, ways, trouble, machineNow } = await courierHealth(db);
		return json({
			web: 'up',
			disk: await diskRoom(settings.dataFolder),
			courier: {
				atWork,
				down,
				/** Whether nothing leaves until somebody has looked at a database that was put back. */
				held,
				trouble,
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
