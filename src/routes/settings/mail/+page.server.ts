import {
	mailServer,
	mailServerSchema,
	ownMail,
	setMailServer
} from '$lib/server/desk/district/mail-server';
import { heardOf } from '$lib/server/desk/district/heard';
import { setting } from '$lib/server/http/may-set';
import { heardForm, tryForm } from '$lib/server/http/tried-form';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
	const services = await setting(locals.user!);
	return {
		server: await mailServer(services),
		heard: await heardOf(services.db, locals.user!, 'email'),
		own: await ownMail(services.db, locals.user!)
	};
};

export const actions: Actions = {
	try: ({ request, locals }) =>
		tryForm(request, locals.user!, { schema: mailServerSchema, set: setMailServer }),
	heard: ({ request, locals }) => heardForm(request, locals.user!, 'email')
};
