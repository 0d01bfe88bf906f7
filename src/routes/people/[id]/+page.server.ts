import { error, fail } from '@sveltejs/kit';
import { z } from 'zod';
import { copyFilter } from '$lib/server/desk/track/copy-filter';
import { correctTie, tieSchema } from '$lib/server/desk/roster/ties';
import { workOutAhead } from '$lib/server/http/roster-work';
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
	tie: async ({ request, locals, params }) => {
		const parsed = tieSchema.safeParse(await readForm(request));
		const why = (text: string, status: 400 | 403) =>
			fail(status, { tie: parsed.data?.personId ?? 0, value: '', id: 0, why: text });
		if (!parsed.success) return why(parsed.error.issues.map((i) => i.message).join(' '), 400);
		const id = Number(params.id);
		if (id !== parsed.data.studentId && id !== parsed.data.personId)
			return why('This tie is not theirs. Load the page again.', 400);
		const { db } = await services();
		const done = await correctTie(db, locals.user!, parsed.data);
		if (!done.ok) return why(done.why, 403);
		workOutAhead();
		return { said: 'Corrected, and written down with your name.' };
	},
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
