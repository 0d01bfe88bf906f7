import { schoolsOf } from '$lib/server/access/rights';
import { error, fail, redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { isAllowed } from '$lib/server/access/may';
import { formLists } from '$lib/server/desk/hand/form-lists';
import { addPerson, newPersonSchema, studentForNew } from '$lib/server/desk/hand/people';
import { readForm } from '$lib/server/http/read-form';
import { workOutAhead } from '$lib/server/http/roster-work';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

const askedSchema = z.object({
	as: z.enum(['student', 'contact', 'staff']).catch('student'),
	/** The student whose contact they are to be. */
	for: z.coerce.number().int().positive().nullable().catch(null)
});

export const load: PageServerLoad = async ({ url, locals }) => {
	const user = locals.user!;
	if (!isAllowed(user, 'correct-people'))
		error(403, 'The school office adds people. Ask them, and tell them who is missing.');
	const asked = askedSchema.parse(Object.fromEntries(url.searchParams));
	const { db } = await services();
	const student = asked.for === null ? null : await studentForNew(db, user, asked.for);
	if (asked.for !== null && !student)
		error(404, 'There is no such student, or another office looks after them.');
	return {
		as: student ? ('contact' as const) : asked.as,
		student,
		lists: await formLists(db, user),
		ownSchool: schoolsOf(user)[0] ?? null
	};
};

export const actions: Actions = {
	default: async ({ request, locals }) => {
		const parsed = newPersonSchema.safeParse(await readForm(request));
		if (!parsed.success)
			return fail(400, {
				why: [...new Set(parsed.error.issues.map((i) => i.message))].join(' '),
				alike: []
			});
		const { db } = await services();
		const added = await addPerson(db, locals.user!, parsed.data);
		if (!added.ok)
			return fail(409, { why: added.why, alike: 'alike' in added ? [...added.alike] : [] });
		workOutAhead();
		redirect(303, `/people/${added.id}`);
	}
};
