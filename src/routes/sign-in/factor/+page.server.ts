import { fail, redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { giveFactor } from '$lib/server/access/sessions';
import { tellElsewhere, tellGuessed } from '$lib/server/desk/work/tell-owner';
import { keepSession, sessionCookie } from '$lib/server/http/cookie';
import { ownPath } from '$lib/server/http/own-path';
import { readForm } from '$lib/server/http/read-form';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

const formSchema = z.object({ code: z.string().trim().min(1, 'Write the code.').max(40) });

export const load: PageServerLoad = async ({ cookies }) => {
	const { settings } = await services();
	if (!cookies.get(sessionCookie(settings))) redirect(303, '/sign-in');
};

export const actions: Actions = {
	default: async ({ request, cookies, url, getClientAddress }) => {
		const parsed = formSchema.safeParse(await readForm(request));
		if (!parsed.success)
			return fail(400, { why: parsed.error.issues.map((i) => i.message).join(' ') });
		const { db, key, settings } = await services();
		const token = cookies.get(sessionCookie(settings));
		if (!token) redirect(303, '/sign-in?said=ended');
		const session = await giveFactor(db, key, token, parsed.data.code, {
			address: getClientAddress(),
			agent: request.headers.get('user-agent') ?? ''
		});
		if (!session.ok) {
			if (session.slowed !== null) await tellGuessed(db, session.slowed);
			return fail(session.waitMs > 0 ? 429 : 400, {
				why:
					session.waitMs > 0
						? `There were too many tries. Wait ${Math.ceil(session.waitMs / 60_000)} minutes, then try again.`
						: 'That code does not fit. Write the one that your app shows now; each is good once.'
			});
		}
		keepSession(cookies, settings, session);
		if (session.fromElsewhere) await tellElsewhere(db, session.personId, session.fromElsewhere);
		redirect(303, ownPath(url.searchParams.get('to')));
	}
};
