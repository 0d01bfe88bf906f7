import { error, fail } from '@sveltejs/kit';
import { z } from 'zod';
import { isAllowed } from '$lib/server/access/may';
import {
	rightsShown,
	roleList,
	roleRightsSchema,
	setRoleRights
} from '$lib/server/desk/work/roles';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

const notYours = 'What each role can do is for whoever has the right to say so.';

export const load: PageServerLoad = async ({ locals }) => {
	if (!isAllowed(locals.user!, 'accounts')) error(403, notYours);
	const { db } = await services();
	return { roles: await roleList(db), rights: rightsShown };
};

/** A form sends a field for each right that is ticked. */
async function read(request: Request): Promise<unknown> {
	try {
		const form = await request.formData();
		return { role: form.get('role'), rights: form.getAll('right') };
	} catch {
		return null;
	}
}

export const actions: Actions = {
	default: async ({ request, locals }) => {
		const parsed = roleRightsSchema.safeParse(await read(request));
		if (!parsed.success)
			return fail(400, { role: '', said: '', why: z.prettifyError(parsed.error) });
		const { db, key } = await services();
		const { role } = parsed.data;
		const done = await setRoleRights(db, key, locals.user!, parsed.data);
		return done.ok
			? { role, said: 'Saved. It holds from the next thing that anybody asks for.', why: '' }
			: fail(409, { role, said: '', why: done.why });
	}
};
