import { DateTime } from 'luxon';
import { z } from 'zod';
import { readDistrict } from '$lib/server/db/district';
import { ask } from '$lib/server/planner/planner';
import { services } from '$lib/server/services';
import type { PageServerLoad } from './$types';

/** A day inside the wanted month; what is no day shows this month. */
const daySchema = z.iso.date().optional().catch(undefined);

export const load: PageServerLoad = async ({ locals, url }) => {
	const { db } = await services();
	const day = daySchema.parse(url.searchParams.get('day') ?? undefined);
	const { zone } = await readDistrict(db);
	const at = day ? DateTime.fromISO(day, { zone }).toMillis() : undefined;
	return { view: await ask('month', locals.user!, at) };
};
