import { z } from 'zod';
import { DateTime } from 'luxon';
import { courierStatus } from '$lib/server/desk/office/courier-status';
import { ask } from '$lib/server/planner/planner';
import { readDistrict } from '$lib/server/db/district';
import { services } from '$lib/server/services';
import type { PageServerLoad } from './$types';

/** A day inside the wanted week; what is no day shows this week. */
const daySchema = z.iso.date().optional().catch(undefined);

export const load: PageServerLoad = async ({ locals, url }) => {
	const { db } = await services();
	const day = daySchema.parse(url.searchParams.get('day') ?? undefined);
	const { zone } = await readDistrict(db);
	const at = day ? DateTime.fromISO(day, { zone }).toMillis() : undefined;
	return {
		userId: locals.user!.personId,
		view: await ask('week', locals.user!, at),
		courier: await courierStatus(db)
	};
};
