import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { ask } from '$lib/server/planner/planner';
import type { PageServerLoad } from './$types';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);

export const load: PageServerLoad = async ({ params, locals }) => {
	const id = idSchema.safeParse(params.id);
	const account = id.success ? await ask('account', locals.user!, id.data) : null;
	if (!account) error(404, 'There is no such dispatch, or it is not yours to see.');
	return { account, id: Number(params.id) };
};
