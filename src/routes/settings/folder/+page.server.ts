import { fail } from '@sveltejs/kit';
import {
	mostPercentSchema,
	setMostPercent,
	watchedView
} from '$lib/server/desk/roster/watched-view';
import { setting } from '$lib/server/http/may-set';
import { readForm } from '$lib/server/http/read-form';
import { issuesText } from '$lib/server/plain-issues';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	const { db, settings } = await setting(locals.user!);
	return { watched: await watchedView(db, settings.rosterFolder) };
};

export const actions: Actions = {
	default: async ({ request, locals }) => {
		const { db } = await setting(locals.user!);
		const form = await readForm(request);
		const typed = typeof form.percent === 'string' ? form.percent.slice(0, 20) : '';
		const parsed = mostPercentSchema.safeParse(form);
		if (!parsed.success) return fail(400, { typed, why: issuesText(parsed.error) });
		const said = await setMostPercent(db, locals.user!, parsed.data.percent);
		return said.ok ? { saved: true } : fail(409, { typed, why: said.why });
	}
};
