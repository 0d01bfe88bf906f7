import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { ask } from '$lib/server/planner/planner';
import type { PageServerLoad } from './$types';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);
const whomSchema = z.enum(['unreachable', 'open']).catch('unreachable');

export const load: PageServerLoad = async ({ params, url, locals }) => {
	const id = idSchema.safeParse(params.id);
	const whom = whomSchema.parse(url.searchParams.get('whom'));
	const sheet = id.success ? await ask('callSheet', locals.user!, id.data, whom) : null;
	if (!sheet) error(404, 'There is no such dispatch, or it is not yours to see.');
	return { sheet, whom, id: Number(params.id) };
};
