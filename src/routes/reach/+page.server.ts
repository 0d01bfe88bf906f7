import { now } from '$lib/server/clock';
import { dispatchLines } from '$lib/server/desk/dispatch-lines';
import { services } from '$lib/server/services';
import type { PageServerLoad } from './$types';

/** A school term or so: what is older is found by search, later. */
const daysBack = 120;

export const load: PageServerLoad = async ({ locals }) => {
	const { db } = await services();
	const time = await now(db);
	return {
		lines: await dispatchLines(db, locals.user!, {
			from: time - daysBack * 86_400_000,
			to: time + daysBack * 86_400_000
		})
	};
};
