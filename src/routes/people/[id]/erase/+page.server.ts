import { error, fail } from '@sveltejs/kit';
import { z } from 'zod';
import { isAllowed } from '$lib/server/access/may';
import { erasePerson } from '$lib/server/desk/keep/erase';
import { whoToErase } from '$lib/server/desk/keep/who-to-erase';
import { readForm } from '$lib/server/http/read-form';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);
const formSchema = z.object({ name: z.string().trim().min(1, 'Write their name.').max(400) });
const noSuch = 'There is nobody here whom you may erase.';

export const load: PageServerLoad = async ({ params, locals }) => {
	if (!isAllowed(locals.user!, 'speak-for-district'))
		error(403, 'Only the district office erases people.');
	const id = idSchema.safeParse(params.id);
	const { db } = await services();
	const who = id.success ? await whoToErase(db, locals.user!, id.data) : null;
	if (!who) error(404, noSuch);
	return { who };
};

export const actions: Actions = {
	default: async ({ params, request, locals }) => {
		const id = idSchema.safeParse(params.id);
		const parsed = formSchema.safeParse(await readForm(request));
		if (!id.success) error(404, noSuch);
		if (!parsed.success)
			return fail(400, { why: parsed.error.issues.map((i) => i.message).join(' '), left: null });
		const { db, settings } = await services();
		const done = await erasePerson(
			...([db, settings.dataFolder, locals.user!, id.data, parsed.data.name] as const)
		);
		return done.ok ? { why: '', left: done.left } : fail(409, { why: done.why, left: null });
	}
};
