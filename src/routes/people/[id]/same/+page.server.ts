import { error, fail, redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { makeOne, makeOneSchema } from '$lib/server/desk/hand/make-one';
import { twoPeople } from '$lib/server/desk/hand/two-people';
import { readForm } from '$lib/server/http/read-form';
import { workOutAhead } from '$lib/server/http/roster-work';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);

export const load: PageServerLoad = async ({ params, url, locals }) => {
	const ids = z.tuple([idSchema, idSchema]).safeParse([params.id, url.searchParams.get('with')]);
	const { db } = await services();
	const people = ids.success ? await twoPeople(db, locals.user!, ids.data) : null;
	if (!people)
		error(404, 'There are no two such people, or another office looks after one of them.');
	return { people };
};

export const actions: Actions = {
	default: async ({ request, locals }) => {
		const parsed = makeOneSchema.safeParse(await readForm(request));
		if (!parsed.success) return fail(400, { why: 'Say which of the two stays.' });
		const { db } = await services();
		const made = await makeOne(db, locals.user!, parsed.data);
		if (!made.ok) return fail(409, { why: made.why });
		workOutAhead();
		redirect(303, `/people/${parsed.data.keepId}`);
	}
};
