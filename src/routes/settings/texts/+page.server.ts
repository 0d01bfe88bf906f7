import {
	setTextProvider,
	textProvider,
	textProviderSchema
} from '$lib/server/desk/district/text-provider';
import { heardOf } from '$lib/server/desk/district/heard';
import { readDistrict } from '$lib/server/db/district';
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
	try: async ({ request, locals }) => {
		const { db } = await setting(locals.user!);
		const schema = textProviderSchema((await readDistrict(db)).country);
		return tryForm(request, locals.user!, { schema, set: setTextProvider });
	},
	heard: ({ request, locals }) => heardForm(request, locals.user!, 'text')
};
