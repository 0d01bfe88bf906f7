import { fail } from '@sveltejs/kit';
import { may } from '$lib/server/access/may';
import { silentFilterSchema } from '$lib/server/desk/silent/silent-families';
import { putSpoken, spokenSchema, takeBackSpoken } from '$lib/server/desk/silent/spoken';
import { readForm } from '$lib/server/http/read-form';
import { ask } from '$lib/server/planner/planner';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, url }) => {
	const filter = silentFilterSchema.parse(Object.fromEntries(url.searchParams));
	const user = locals.user!;
	return {
		filter,
		view: await ask('silentFamilies', user, filter),
		mayPutDown: may(user, 'answer')
	};
};

const said = async (request: Request) => {
	const form = await readForm(request);
	return { form, read: spokenSchema.safeParse(form) };
};

export const actions: Actions = {
	spoken: async ({ request, locals }) => {
		const { form, read } = await said(request);
		if (!read.success)
			return fail(400, { why: read.error.issues[0]!.message, words: String(form.words ?? '') });
		const { db } = await services();
		const done = await putSpoken(db, locals.user!, read.data);
		if (!done.ok) return fail(409, { why: done.why, words: read.data.words });
		const { householdId, studentId } = read.data;
		return {
			done: 'Put down with your name. The family is off this list for as long.',
			householdId,
			studentId
		};
	},
	back: async ({ request, locals }) => {
		const { read } = await said(request);
		if (!read.success) return fail(400, { why: read.error.issues[0]!.message, words: '' });
		const { db } = await services();
		const done = await takeBackSpoken(db, locals.user!, read.data);
		return done.ok ? { done: 'Taken back.' } : fail(409, { why: done.why, words: '' });
	}
};
