import { fail, redirect } from '@sveltejs/kit';
import { may } from '$lib/server/access/may';
import { groupSchema, makeGroup } from '$lib/server/desk/groups/change-group';
import { groupList } from '$lib/server/desk/groups/groups';
import { formLists } from '$lib/server/desk/hand/form-lists';
import { readForm } from '$lib/server/http/read-form';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	const { db } = await services();
	const user = locals.user!;
	return {
		groups: await groupList(db, user),
		lists: may(user, 'correct-people') ? await formLists(db, user) : null,
		ownSchool: user.schoolId
	};
};

export const actions: Actions = {
	default: async ({ request, locals }) => {
		const parsed = groupSchema.safeParse(await readForm(request));
		if (!parsed.success)
			return fail(400, { why: parsed.error.issues.map((i) => i.message).join(' ') });
		const { db } = await services();
		const made = await makeGroup(db, locals.user!, parsed.data);
		if (!made.ok) return fail(409, { why: made.why });
		redirect(303, `/people/groups/${made.id}`);
	}
};
