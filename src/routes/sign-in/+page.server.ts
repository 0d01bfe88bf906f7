import { fail, redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { signIn } from '$lib/server/access/sessions';
import { everyUser } from '$lib/server/access/user';
import { isSecure, sessionCookie } from '$lib/server/http/cookie';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';
import { readForm } from '$lib/server/http/read-form';

const formSchema = z.object({
	name: z.string().trim().min(1, 'Write your user name.').max(100),
	password: z.string().min(1, 'Write your password.').max(500)
});

/** Where to go first, a page of our own: what a browser would take for another site, whatever it is written like, is not. */
function ownPath(to: string | null): string {
	const home = '/week';
	if (to === null || !/^\/[\w\-./?=&%~+:,@]*$/.test(to)) return home;
	const here = 'http://here.invalid';
	const url = new URL(to, here);
	const elsewhere = url.origin !== here || url.pathname.startsWith('//');
	return elsewhere || url.pathname.startsWith('/sign-in') ? home : url.pathname + url.search;
}

export const load: PageServerLoad = async () => {
	const { db, settings } = await services();
	return {
		samples: settings.demo
			? (await everyUser(db)).map(({ userName, name, title, role }) => ({
					userName,
					name,
					title,
					role
				}))
			: []
	};
};

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
			address: getClientAddress(),
			before: cookies.get(sessionCookie(settings))
		});
		if (!session.ok) {
			const minutes = Math.ceil(session.waitMs / 60_000);
			return fail(session.waitMs > 0 ? 429 : 400, {
				name,
				why:
					session.waitMs > 0
						? `There were too many tries. Wait ${minutes} ${minutes === 1 ? 'minute' : 'minutes'}, then try again.`
						: 'This user name and password do not fit together. Try again.'
			});
		}
		cookies.set(sessionCookie(settings), session.token, {
			path: '/',
			httpOnly: true,
			sameSite: 'lax',
			secure: isSecure(settings),
			expires: new Date(session.endsAt)
		});
		redirect(303, ownPath(url.searchParams.get('to')));
	}
};
