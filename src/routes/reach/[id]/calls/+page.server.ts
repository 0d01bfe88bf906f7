import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { ask } from '$lib/server/planner/planner';
import type { PageServerLoad } from './$types';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);
/** What makes no sense shows the usual sheet. */
const querySchema = z.object({
	whom: z.enum(['unreachable', 'open']).catch('unreachable'),
	school: z.coerce.number().int().min(0).nullable().catch(null)
});

export const load: PageServerLoad = async ({ params, url, locals }) => {
	const id = idSchema.safeParse(params.id);
	const { whom, school } = querySchema.parse(Object.fromEntries(url.searchParams));
	const sheet = id.success ? await ask('callSheet', locals.user!, id.data, whom, school) : null;
	if (!sheet) error(404, 'There is no such dispatch, or it is not yours to see.');
	return { sheet, whom, id: Number(params.id) };
};
