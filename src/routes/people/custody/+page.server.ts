import { error, fail } from '@sveltejs/kit';
import { z } from 'zod';
import { isAllowed, may } from '$lib/server/access/may';
import { custodyOfSchema, sayCustodyOf, unsaidCustody } from '$lib/server/desk/hand/custody';
import { readForm } from '$lib/server/http/read-form';
import { workOutAhead } from '$lib/server/http/roster-work';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

const filterSchema = z.object({
	relation: z.string().max(200).catch(''),
	page: z.coerce.number().int().min(1).max(100_000).catch(1)
});

export const load: PageServerLoad = async ({ locals, url }) => {
	const user = locals.user!;
	if (!isAllowed(user, 'correct-people')) error(403, 'Custody is the school office’s to say.');
	const filter = filterSchema.parse({
		relation: url.searchParams.get('relation') ?? '',
		page: url.searchParams.get('page') ?? 1
	});
	const { db } = await services();
	return {
		filter,
		unsaid: await unsaidCustody(db, user, filter),
		mayMany: may(user, 'bring-roster')
	};
};

export const actions: Actions = {
	default: async ({ request, locals }) => {
		const said = custodyOfSchema.safeParse(await readForm(request));
		if (!said.success) return fail(400, { why: 'Say yes or no. Load the page again.' });
		const { db } = await services();
		const done = await sayCustodyOf(db, locals.user!, said.data);
		if (!done.ok) return fail(403, { why: done.why });
		workOutAhead();
		return { contacts: done.contacts, custody: said.data.custody };
	}
};
