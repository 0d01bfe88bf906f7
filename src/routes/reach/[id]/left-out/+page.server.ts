import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { ask } from '$lib/server/planner/planner';
import type { PageServerLoad } from './$types';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);
/** What makes no sense shows the first page. */
const querySchema = z.object({ page: z.coerce.number().int().min(1).max(10_000).catch(1) });

export const load: PageServerLoad = async ({ params, url, locals }) => {
	const id = idSchema.safeParse(params.id);
	const { page } = querySchema.parse(Object.fromEntries(url.searchParams));
	const left = id.success ? await ask('leftOut', locals.user!, id.data, page) : null;
	if (!left) error(404, 'There is no such dispatch, or it is not yours to see.');
	return { left, id: Number(params.id) };
};
