import { json } from '@sveltejs/kit';
import { courierHealth } from '$lib/server/desk/office/courier-status';
import { diskRoom } from '$lib/server/disk';
import { mayWatch } from '$lib/server/http/may-watch';
import { services } from '$lib/server/services';

/** For whatever watches over the machine: 200 while the web server has its database, 503 else; to whoever runs it, and by the token of the settings, also how the courier and its ways stand. */
export const GET = async ({ request, locals }) => {
	try {
		const { db, settings } = await services();
		const authorization = request.headers.get('authorization');
		if (mayWatch(locals.user, authorization, settings.watchToken) !== true) {
			await db.one('SELECT 1 AS there FROM mark');
			return json({ web: 'up' });
		}
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
