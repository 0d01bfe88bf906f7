import { error, fail, redirect } from '@sveltejs/kit';
import { isAllowed } from '$lib/server/access/may';
import { accountList } from '$lib/server/desk/work/accounts';
import { invite, inviteSchema } from '$lib/server/desk/work/invite';
import { roleChoices } from '$lib/server/desk/work/roles';
import { readForm } from '$lib/server/http/read-form';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	if (!isAllowed(locals.user!, 'accounts'))
		error(403, 'Who works here is for whoever has the right to say so.');
	const { db } = await services();
	return { accounts: await accountList(db), choices: await roleChoices(db) };
};

export const actions: Actions = {
	default: async ({ request, locals }) => {
		const form = await readForm(request);
		const parsed = inviteSchema.safeParse(form);
		const typed = Object.fromEntries(
			Object.entries(form).map(([k, v]) => [k, typeof v === 'string' ? v.slice(0, 320) : ''])
		);
		if (!parsed.success) {
			const why = [...new Set(parsed.error.issues.map((i) => i.message))].join(' ');
			return fail(400, { why, typed });
		}
		const { db } = await services();
		const done = await invite(db, locals.user!, parsed.data);
		if (!done.ok) return fail(409, { why: done.why, typed });
		redirect(303, `/settings/work/${done.personId}`);
	}
};
