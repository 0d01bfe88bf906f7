import { services } from '$lib/server/services';
import { now } from '$lib/server/clock';
import { waitingCount } from '$lib/server/desk/replies/shelf-counts';
import { readDistrict } from '$lib/server/db/district';
import { may } from '$lib/server/access/may';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = async ({ locals }) => {
	if (!locals.user) return { frame: null };
	const { db, settings } = await services();
	const { zone, name } = await readDistrict(db);
	const time = await now(db);
	return {
		frame: {
			/** Conversations that wait for an answer. */
			waiting: await waitingCount(db, locals.user, time),
			user: { name: locals.user.name, title: locals.user.title },
			/** What is not offered to whoever may not do it. */
			mayWrite: may(locals.user, 'write'),
			zone,
			district: name,
			demo: settings.demo,
			now: time
		}
	};
};
