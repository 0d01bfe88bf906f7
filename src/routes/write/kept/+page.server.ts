import { fail } from '@sveltejs/kit';
import { z } from 'zod';
import { giveUpKept, keptNameSchema, renameKept } from '$lib/server/desk/audience/kept';
import { ask } from '$lib/server/planner/planner';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';
import { readForm } from '$lib/server/http/read-form';

const querySchema = z.object({ change: z.coerce.number().int().positive().optional() });

export const load: PageServerLoad = async ({ locals, url }) => {
	const query = querySchema.safeParse(Object.fromEntries(url.searchParams));
	const open = query.success ? query.data.change : undefined;
	return {
		kept: await ask('kept', locals.user!),
		/** The names behind one kept audience's change, where it is asked for. */
		open: open ?? null,
		change: open ? await ask('keptChange', locals.user!, open) : null
	};
};

const idSchema = z.coerce.number().int().positive();

export const actions: Actions = {
	rename: async ({ request, locals }) => {
		const parsed = z
			.object({ id: idSchema, name: keptNameSchema })
			.safeParse(await readForm(request));
		if (!parsed.success) return fail(400, { why: parsed.error.issues[0]!.message });
		const { db } = await services();
		const result = await renameKept(db, locals.user!, parsed.data.id, parsed.data.name);
		return result.ok ? { done: 'It has its new name.' } : fail(409, { why: result.why });
	},
	giveUp: async ({ request, locals }) => {
		const parsed = z.object({ id: idSchema }).safeParse(await readForm(request));
		if (!parsed.success) return fail(400, { why: 'Which audience is meant is missing.' });
		const { db } = await services();
		return (await giveUpKept(db, locals.user!, parsed.data.id))
			? { done: 'It is deleted. Dispatches that used it keep what they were.' }
			: fail(404, { why: 'There is no such kept audience of yours.' });
	}
};
