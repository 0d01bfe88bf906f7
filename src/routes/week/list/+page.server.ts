import { fail, redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { callBack } from '$lib/server/desk/send/call-back';
import { duplicate, listFilterSchema } from '$lib/server/desk/week/dispatch-list';
import { throwAwayDraft } from '$lib/server/desk/sheet/draft';
import { now } from '$lib/server/clock';
import { workZone } from '$lib/server/access/work-clock';
import { ask } from '$lib/server/planner/planner';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';
import { readForm } from '$lib/server/http/read-form';

export const load: PageServerLoad = async ({ locals, url }) => {
	const { db } = await services();
	const filter = listFilterSchema.parse(Object.fromEntries(url.searchParams));
	return {
		filter,
		list: await ask('dispatchList', locals.user!, filter),
		zone: await workZone(db, locals.user!),
		now: await now(db)
	};
};

const idSchema = z.object({ id: z.coerce.number().int().positive() });
const idOf = async (request: Request) => idSchema.safeParse(await readForm(request)).data?.id;
const noSuch = { why: 'There is no such dispatch of yours any more.' };

export const actions: Actions = {
	duplicate: async ({ request, locals }) => {
		const { db } = await services();
		const id = await idOf(request);
		const copy = id === undefined ? null : await duplicate(db, locals.user!, id);
		if (copy === null) return fail(404, noSuch);
		redirect(303, `/write?draft=${copy}`);
	},
	/** A scheduled one is called back and opened; a draft is thrown away. */
	cancel: async ({ request, locals }) => {
		const { db } = await services();
		const id = await idOf(request);
		if (id === undefined) return fail(404, noSuch);
		const back = await callBack(db, locals.user!, id);
		return back.ok ? { calledBack: id } : fail(409, { why: back.why });
	},
	throwAway: async ({ request, locals }) => {
		const { db } = await services();
		const id = await idOf(request);
		if (id === undefined || !(await throwAwayDraft(db, locals.user!, { id })))
			return fail(404, noSuch);
		return { thrownAway: id };
	}
};
