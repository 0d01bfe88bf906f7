import { may } from '$lib/server/access/may';
import { fail } from '@sveltejs/kit';
import { z } from 'zod';
import { mendAddress, mendSchema } from '$lib/server/desk/people/mend';
import { ask } from '$lib/server/planner/planner';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';
import { readForm } from '$lib/server/http/read-form';

const pageSchema = z.coerce.number().int().min(1).max(100_000).catch(1);

export const load: PageServerLoad = async ({ locals, url }) => {
	const page = pageSchema.parse(url.searchParams.get('page') ?? 1);
	return {
		failing: await ask('failingAddresses', locals.user!, page),
		// A teacher sees those of own students' families; mending is the office's.
		mayMend: may(locals.user!, 'mend')
	};
};

export const actions: Actions = {
	default: async ({ request, locals }) => {
		const form = await readForm(request);
		const parsed = mendSchema.safeParse(form);
		if (!parsed.success) {
			return fail(400, {
				id: 0,
				value: '',
				why: 'This address is not on the list any more. Load it again.'
			});
		}
		const { db } = await services();
		const result = await mendAddress(db, locals.user!, parsed.data);
		return result.ok
			? { said: result.said }
			: fail(400, { id: parsed.data.id, value: parsed.data.value, why: result.why });
	}
};
