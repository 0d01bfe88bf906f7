import { error, fail } from '@sveltejs/kit';
import { z } from 'zod';
import { mendAddress, mendSchema } from '$lib/server/desk/mend';
import { ask } from '$lib/server/planner/planner';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);
/** A filter that makes no sense shows everything rather than nothing. */
const filterSchema = z.object({
	way: z.enum(['all', 'email', 'text', 'inbox']).catch('all'),
	state: z
		.enum([
			'all',
			'left-out',
			'held',
			'planned',
			'spared',
			'sent',
			'delivered',
			'failed',
			'read',
			'answered'
		])
		.catch('all'),
	mine: z
		.enum(['0', '1'])
		.catch('0')
		.transform((v) => v === '1'),
	page: z.coerce.number().int().min(1).max(100_000).catch(1)
});

export const load: PageServerLoad = async ({ params, url, locals }) => {
	const id = idSchema.safeParse(params.id);
	const filter = filterSchema.parse({
		way: 'all',
		state: 'all',
		mine: '0',
		page: 1,
		...Object.fromEntries(url.searchParams)
	});
	const person = id.success ? await ask('person', locals.user!, id.data, filter) : null;
	if (!person) error(404, 'There is nobody at this address, or not among those you look after.');
	return { person, filter };
};

export const actions: Actions = {
	mend: async ({ request, locals }) => {
		const parsed = mendSchema.safeParse(Object.fromEntries(await request.formData()));
		if (!parsed.success) return fail(400, { id: 0, value: '', why: 'Load the page again.' });
		const { db } = await services();
		const result = await mendAddress(db, locals.user!, parsed.data);
		return result.ok
			? { said: result.said }
			: fail(400, { id: parsed.data.id, value: parsed.data.value, why: result.why });
	}
};
