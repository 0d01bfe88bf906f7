import { services } from '$lib/server/services';
import { now } from '$lib/server/clock';
import { waitingCount } from '$lib/server/desk/replies/shelf-counts';
import { readDistrict } from '$lib/server/db/district';
import { may } from '$lib/server/access/may';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = async ({ locals }) => {
	if (!locals.user) return { frame: null };
	const { db, settings } = await services();
	const { zone, name, weekStart } = await readDistrict(db);
	const time = await now(db);
	return {
		frame: {
			/** Conversations that wait for an answer. */
			waiting: await waitingCount(db, locals.user, time),
			user: { name: locals.user.name, title: locals.user.title },
			/** What is not offered to whoever may not do it. */
			mayWrite: may(locals.user, 'write'),
			mayAnswer: may(locals.user, 'answer'),
			zone,
			/** As calendars to pick from take it: Sunday 0. */
			weekStart: weekStart % 7,
			district: name,
			demo: settings.demo,
			now: time
		}
	};
};
