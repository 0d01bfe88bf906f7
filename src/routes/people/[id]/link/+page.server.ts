import { error, fail } from '@sveltejs/kit';
import { z } from 'zod';
import { officeLink, whoGetsLink } from '$lib/server/desk/people/office-link';
import { endLinksOf } from '$lib/server/desk/replies/end-link';
import { readForm } from '$lib/server/http/read-form';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);

export const load: PageServerLoad = async ({ params, locals }) => {
	const { db } = await services();
	const id = idSchema.safeParse(params.id);
	const person = id.success ? await whoGetsLink(db, locals.user!, id.data) : null;
	if (!person) error(404, 'There is nobody with an inbox here whom you may give a link to.');
	return { person };
};

export const actions: Actions = {
	make: async ({ params, request, locals }) => {
		await readForm(request);
		const { db, key, settings } = await services();
		const id = idSchema.safeParse(params.id);
		const made = id.success
			? await officeLink(db, key, settings.publicUrl, locals.user!, id.data)
			: null;
		return (
			made ?? fail(404, { why: 'There is nobody with an inbox here whom you may give a link to.' })
		);
	},
	/** Every link of theirs that is out in the world opens nothing any more. */
	end: async ({ params, locals }) => {
		const { db } = await services();
		const id = idSchema.safeParse(params.id);
		return id.success && (await endLinksOf(db, locals.user!, id.data))
			? { ended: true }
			: fail(404, { why: 'There is nobody here whose links you may end.' });
	}
};
