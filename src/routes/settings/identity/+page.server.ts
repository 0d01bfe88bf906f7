import { fail } from '@sveltejs/kit';
import { z } from 'zod';
import {
	closeIdentityProvider,
	identityProvider,
	identityProviderSchema,
	setIdentityProvider
} from '$lib/server/desk/district/identity-provider';
import { setting } from '$lib/server/http/may-set';
import { backAddress } from '$lib/server/http/outside';
import { readForm } from '$lib/server/http/read-form';
import { tryForm } from '$lib/server/http/tried-form';
import type { Actions, PageServerLoad } from './$types';

const closeSchema = z.object({ how: z.enum(['off', 'forget']) });

export const load: PageServerLoad = async ({ locals }) => {
	const services = await setting(locals.user!);
	return { provider: await identityProvider(services), back: backAddress(services.settings) };
};

export const actions: Actions = {
	try: ({ request, locals }) =>
		tryForm(request, locals.user!, {
			schema: identityProviderSchema,
			set: setIdentityProvider
		}),
	close: async ({ request, locals }) => {
		const services = await setting(locals.user!);
		const parsed = closeSchema.safeParse(await readForm(request));
		if (!parsed.success) return fail(400, { why: 'Load the page again, and choose once more.' });
		const came = await closeIdentityProvider(services, locals.user!, parsed.data.how);
		return came.ok ? { closed: true } : fail(400, { why: came.why });
	}
};
