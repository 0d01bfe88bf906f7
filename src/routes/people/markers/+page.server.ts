import { schoolsOf } from '$lib/server/access/rights';
import { fail, redirect } from '@sveltejs/kit';
import { makeMarker, markerSchema } from '$lib/server/desk/markers/change-marker';
import { markerForm } from '$lib/server/desk/markers/form';
import { markerList } from '$lib/server/desk/markers/markers';
import { readForm } from '$lib/server/http/read-form';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	const { db } = await services();
	const user = locals.user!;
	return {
		markers: await markerList(db, user),
		lists: await markerForm(db, user),
		ownSchool: schoolsOf(user)[0] ?? null
	};
};

export const actions: Actions = {
	default: async ({ request, locals }) => {
		const parsed = markerSchema.safeParse(await readForm(request));
		if (!parsed.success)
			return fail(400, { why: parsed.error.issues.map((i) => i.message).join(' ') });
		const { db } = await services();
		const made = await makeMarker(db, locals.user!, parsed.data);
		if (!made.ok) return fail(409, { why: made.why });
		redirect(303, `/people/markers/${made.id}`);
	}
};
