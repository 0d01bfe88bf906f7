import { error, fail, redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { isAllowed } from '$lib/server/access/may';
import type { User } from '$lib/server/access/user';
import {
	beginPacking,
	clearLeaving,
	dropLeaving,
	leavingList,
	linkToTake,
	packSchema
} from '$lib/server/desk/leaving/leaving';
import { readForm, readFormData } from '$lib/server/http/read-form';
import { inBackground } from '$lib/server/http/in-background';
import { askPacking } from '$lib/server/planner/planner';
import { issuesText } from '$lib/server/plain-issues';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

const idSchema = z.object({ id: z.coerce.number().int().positive() });

/** The services, for whoever may take everything along; the request ends for others. */
function asked(user: User) {
	if (!isAllowed(user, 'take-all-along'))
		error(403, 'Everything leaves only by whoever looks after the settings of the whole district.');
	return services();
}

export const load: PageServerLoad = async ({ locals }) => {
	const { db, settings } = await asked(locals.user!);
	await clearLeaving(db, settings.dataFolder);
	return { packages: await leavingList(db, locals.user!) };
};

export const actions: Actions = {
	pack: async ({ request, locals }) => {
		const { db } = await asked(locals.user!);
		const form = await readFormData(request);
		const parsed = packSchema.safeParse({ parts: form.getAll('parts') });
		if (!parsed.success) return fail(400, { why: issuesText(parsed.error) });
		const begun = await beginPacking(db, locals.user!, parsed.data.parts, (user, what, heard) =>
			askPacking(heard, user, what)
		);
		if (!begun.ok) return fail(409, { why: begun.why });
		inBackground('packing up', begun.done);
		return { why: '' };
	},
	take: async ({ request, locals }) => {
		const { db } = await asked(locals.user!);
		const parsed = idSchema.safeParse(await readForm(request));
		if (!parsed.success)
			return fail(400, { why: 'There is no such package. Load the page again.' });
		const { id } = parsed.data;
		const link = await linkToTake(db, locals.user!, id, locals.sessionId!);
		if (!link.ok) return fail(409, { why: link.why });
		redirect(303, `/settings/leaving/${id}/file?key=${link.token}`);
	},
	drop: async ({ request, locals }) => {
		const { db, settings } = await asked(locals.user!);
		const parsed = idSchema.safeParse(await readForm(request));
		if (!parsed.success)
			return fail(400, { why: 'There is no such package. Load the page again.' });
		const place = { db, dataFolder: settings.dataFolder };
		const done = await dropLeaving(place, locals.user!, parsed.data.id);
		return done.ok ? { why: '' } : fail(409, { why: done.why });
	}
};
