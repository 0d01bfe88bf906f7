import { holdMinutes } from '$lib/core/time/hold';
import { now } from '$lib/server/clock';
import { ask } from '$lib/server/planner/planner';
import { services } from '$lib/server/services';
import type { PageServerLoad } from './$types';

/** A school term or so: what is older is found by search, later. */
const daysBack = 120;

export const load: PageServerLoad = async ({ locals }) => {
	const { db } = await services();
	const time = await now(db);
	return {
		lines: await ask('dispatchLines', locals.user!, {
			from: time - daysBack * 86_400_000,
			// What is on hold is on its way; what leaves later stands in the Week.
			to: time + holdMinutes.most * 60_000
		})
	};
};
