import {
	setTextProvider,
	textProvider,
	textProviderSchema
} from '$lib/server/desk/district/text-provider';
import { heardOf } from '$lib/server/desk/district/heard';
import { setting } from '$lib/server/http/may-set';
import { heardForm, tryForm } from '$lib/server/http/tried-form';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	const services = await setting(locals.user!);
	return {
		provider: await textProvider(services),
		heard: await heardOf(services.db, locals.user!, 'text')
	};
};

export const actions: Actions = {
	try: ({ request, locals }) =>
		tryForm(request, locals.user!, { schema: textProviderSchema, set: setTextProvider }),
	heard: ({ request, locals }) => heardForm(request, locals.user!, 'text')
};
