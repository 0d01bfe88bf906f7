import { fail, redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { signIn } from '$lib/server/access/sessions';
import { everyUser } from '$lib/server/access/user';
import { ownPath } from '$lib/server/http/own-path';
import { keepSession, sessionCookie } from '$lib/server/http/cookie';
import { tellElsewhere, tellGuessed } from '$lib/server/desk/work/tell-owner';
import { shownIdentity } from '$lib/server/identity';
import type { Query } from '$lib/server/db/open';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';
import { readForm } from '$lib/server/http/read-form';

const formSchema = z.object({
	name: z.string().trim().min(1, 'Write your user name.').max(100),
	password: z.string().min(1, 'Write your password.').max(500)
});

/** What has led here, by its code in the address. */
const saidSchema = z.enum(['set', 'ended']).nullable().catch(null);
const said = {
	set: 'Your password is set. Sign in with it.',
	ended: 'It took too long. Sign in again.'
} as const;

export const load: PageServerLoad = async ({ url }) => {
	const { db, settings } = await services();
	const why = saidSchema.parse(url.searchParams.get('said'));
	return {
		said: why && said[why],
		name: (url.searchParams.get('name') ?? '').slice(0, 60),
		outside: await shownIdentity(db),
		to: ownPath(url.searchParams.get('to')),
		samples: settings.demo
			? (await everyUser(db)).map(({ userName, name, title }) => ({ userName, name, title }))
			: []
	};
};

/** What is said where a password opens nothing: the same whatever the reason. */
async function noFit(db: Query): Promise<string> {
	const words = 'This user name and password do not fit together. Try again';
	const outside = await shownIdentity(db);
	return outside?.passwords === 'keepers'
		? `${words}, or sign in with ${outside.name}: most colleagues have to.`
		: `${words}.`;
}

export const actions: Actions = {
	default: async ({ request, cookies, url, getClientAddress }) => {
		const form = await readForm(request);
		const parsed = formSchema.safeParse(form);
		const name = typeof form.name === 'string' ? form.name.slice(0, 100) : '';
		if (!parsed.success) {
			return fail(400, { name, why: parsed.error.issues.map((i) => i.message).join(' ') });
		}
		const { db, settings } = await services();
		const session = await signIn(db, parsed.data.name, parsed.data.password, {
			...{ address: getClientAddress(), agent: request.headers.get('user-agent') ?? '' },
			before: cookies.get(sessionCookie(settings))
		});
		if (!session.ok) {
			const minutes = Math.ceil(session.waitMs / 60_000);
			if (session.slowed !== null) await tellGuessed(db, session.slowed);
			return fail(session.waitMs > 0 ? 429 : 400, {
				name,
				why:
					session.waitMs > 0
						? `There were too many tries. Wait ${minutes} ${minutes === 1 ? 'minute' : 'minutes'}, then try again.`
						: await noFit(db)
			});
		}
		keepSession(cookies, settings, session);
		const to = ownPath(url.searchParams.get('to'));
		if (session.waitsFactor) redirect(303, `/sign-in/factor?to=${encodeURIComponent(to)}`);
		if (session.fromElsewhere) await tellElsewhere(db, session.personId, session.fromElsewhere);
		redirect(303, to);
	}
};
