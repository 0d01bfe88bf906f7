import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { ways } from '$lib/core/roster/way';
import { ask } from '$lib/server/planner/planner';
import type { PageServerLoad } from './$types';

const askedSchema = z.object({
	of: z.string().max(120).catch('mine'),
	by: z.enum([...ways, 'none', 'all']).catch('all'),
	language: z.string().max(35).catch(''),
	page: z.coerce.number().int().min(1).max(100_000).catch(1)
});

export const load: PageServerLoad = async ({ url, locals }) => {
	const { of, ...asked } = askedSchema.parse(Object.fromEntries(url.searchParams));
	const view = await ask('reachOfPlace', locals.user!, of, asked);
	if (!view) error(404, 'There is no such place, or another office looks after it.');
	return { view, asked: { ...asked, of } };
};
