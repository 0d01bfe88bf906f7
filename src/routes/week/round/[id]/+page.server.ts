import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { dateActions } from '$lib/server/http/date-actions';
import { workZone } from '$lib/server/access/work-clock';
import { ask } from '$lib/server/planner/planner';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, params }) => {
	const { db } = await services();
	const id = z.coerce.number().int().positive().safeParse(params.id);
	const [round] = id.success ? await ask('roundViews', locals.user!, { roundId: id.data }) : [];
	if (!round) error(404, 'There is no such round of yours.');
	return { round, zone: await workZone(db, locals.user!) };
};

export const actions: Actions = dateActions;
