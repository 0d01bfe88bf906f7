import { services } from '$lib/server/services';
import { now } from '$lib/server/clock';
import { waitingCount } from '$lib/server/desk/replies/shelf-counts';
import { readDistrict } from '$lib/server/db/district';
import { workClock } from '$lib/server/access/work-clock';
import { may } from '$lib/server/access/may';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = async ({ locals }) => {
	if (!locals.user) return { frame: null };
	const { db, settings } = await services();
	const { name, weekStart, clock } = await readDistrict(db);
	const { zone } = await workClock(db, locals.user);
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
			/** How a time of day is written. */
			clock,
			/** As calendars to pick from take it: Sunday 0. */
			weekStart: weekStart % 7,
			district: name,
			demo: settings.demo,
			now: time
		}
	};
};
