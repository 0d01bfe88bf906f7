import { error, fail, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { markersOfUser } from '$lib/server/desk/audience/markers-seen';
import { sheetsWanted } from '$lib/server/desk/people/first-access';
import { sectionOpen, setSectionOpen } from '$lib/server/desk/replies/sections-open';
import { enrol, enrolSchema, unenrol } from '$lib/server/desk/hand/enrol';
import { readForm } from '$lib/server/http/read-form';
import { workOutAhead } from '$lib/server/http/roster-work';
import { ask } from '$lib/server/planner/planner';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);

export const load: PageServerLoad = async ({ params, locals }) => {
	const id = idSchema.safeParse(params.id);
	const section = id.success ? await ask('sectionView', locals.user!, id.data) : null;
	if (!section) error(404, 'There is no such section, or not among those you look after.');
	const { db } = await services();
	const user = locals.user!;
	return {
		section,
		markers: await markersOfUser(db, user),
		talk: await sectionOpen(db, section.id),
		sheets: await sheetsWanted(db, user, { sectionId: section.id })
	};
};

const act = (run: typeof enrol) => async (event: RequestEvent) => {
	const parsed = enrolSchema.safeParse({
		...(await readForm(event.request)),
		sectionId: event.params.id
	});
	if (!parsed.success) return fail(400, { why: 'Load the page again and try once more.' });
	const { db } = await services();
	const done = await run(db, event.locals.user!, parsed.data);
	if (!done.ok) return fail(403, { why: done.why });
	workOutAhead();
	return { said: 'Done, and written down with your name.' };
};
const talkSchema = z.object({
	open: z.enum(['on']).optional(),
	hours: z.string().trim().max(200, 'The hours have 200 letters at most.').catch('')
});

export const actions: Actions = {
	enrol: act(enrol),
	unenrol: act(unenrol),
	/** Whether families may write to its staff by themselves. */
	talk: async ({ params, request, locals }) => {
		const id = idSchema.safeParse(params.id);
		const parsed = talkSchema.safeParse(await readForm(request));
		if (!id.success || !parsed.success)
			return fail(400, { why: 'Load the page again and try once more.' });
		const { open, hours } = parsed.data;
		const { db } = await services();
		return (await setSectionOpen(db, locals.user!, id.data, { open: open === 'on', hours }))
			? {
					said: open
						? 'Families may write to its staff from now on.'
						: 'Families begin nothing here any more; what was begun stays.'
				}
			: fail(403, { why: 'This section is not among those you may write to.' });
	}
};
