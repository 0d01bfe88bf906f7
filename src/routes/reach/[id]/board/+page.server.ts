import { error, fail, redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { wordingSchema } from '$lib/core/copy/words';
import { changeWording, wordingOnBoards } from '$lib/server/desk/boards/change-post';
import { onBoards } from '$lib/server/desk/boards/on-boards';
import { readDistrict } from '$lib/server/db/district';
import { readForm } from '$lib/server/http/read-form';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);
const notHere = 'There is no such announcement of yours on a board.';

/** What boards say of an announcement, to be changed there alone. */
export const load: PageServerLoad = async ({ params, locals }) => {
	const id = idSchema.safeParse(params.id);
	if (!id.success) error(404, notHere);
	const { db } = await services();
	const said = await wordingOnBoards(db, locals.user!, id.data);
	const on = said && (await onBoards(db, locals.user!, id.data));
	if (!said || !on) error(404, notHere);
	return {
		...said,
		id: id.data,
		on,
		userId: locals.user!.personId,
		fileLimit: (await readDistrict(db)).fileLimitMegabytes
	};
};

const saidSchema = z.object({
	base: z.coerce.number().int().min(0),
	wording: z
		.string()
		.max(3_000_000)
		.transform((text, context): unknown => {
			try {
				return JSON.parse(text) as unknown;
			} catch {
				context.addIssue({ code: 'custom', message: 'This is no wording.' });
				return z.NEVER;
			}
		})
		.pipe(wordingSchema)
});

export const actions: Actions = {
	default: async ({ params, request, locals }) => {
		const id = idSchema.safeParse(params.id);
		if (!id.success) error(404, notHere);
		const said = saidSchema.safeParse(await readForm(request));
		if (!said.success)
			return fail(400, {
				why: 'What was sent is no wording that can be read. It is kept in this browser: load the page again and try once more.'
			});
		const { db } = await services();
		const { wording, base } = said.data;
		const done = await changeWording(db, locals.user!, id.data, wording, base);
		if (!done.ok) return fail(409, { why: done.why });
		redirect(303, `/reach/${id.data}`);
	}
};
