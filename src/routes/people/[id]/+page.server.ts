import { error, fail } from '@sveltejs/kit';
import { z } from 'zod';
import { copyFilter } from '$lib/server/desk/track/copy-filter';
import { mendAddress, mendSchema } from '$lib/server/desk/people/mend';
import { ask } from '$lib/server/planner/planner';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';
import { readForm } from '$lib/server/http/read-form';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);
const filterSchema = copyFilter('left-out').extend({
	mine: z
		.enum(['0', '1'])
		.catch('0')
		.transform((v) => v === '1')
});

export const load: PageServerLoad = async ({ params, url, locals }) => {
	const id = idSchema.safeParse(params.id);
	const filter = filterSchema.parse(Object.fromEntries(url.searchParams));
	const person = id.success ? await ask('person', locals.user!, id.data, filter) : null;
	if (!person) error(404, 'There is nobody at this address, or not among those you look after.');
	return { person, filter };
};

export const actions: Actions = {
	mend: async ({ request, locals, params }) => {
		const parsed = mendSchema.safeParse(await readForm(request));
		if (!parsed.success) return fail(400, { id: 0, value: '', why: 'Load the page again.' });
		const { db } = await services();
		const id = idSchema.safeParse(params.id);
		const theirs =
			id.success &&
			(await db.one('SELECT 1 FROM address WHERE id = $address AND person_id = $person', {
				address: parsed.data.id,
				person: id.data
			}));
		if (!theirs)
			return fail(404, {
				id: 0,
				value: '',
				why: 'This address is not theirs. Load the page again.'
			});
		const result = await mendAddress(db, locals.user!, parsed.data);
		return result.ok
			? { said: result.said }
			: fail(400, { id: parsed.data.id, value: parsed.data.value, why: result.why });
	}
};
