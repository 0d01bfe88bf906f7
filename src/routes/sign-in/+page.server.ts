import { fail, redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { signIn } from '$lib/server/access/sessions';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';
import { readForm } from '$lib/server/http/read-form';

const formSchema = z.object({
	name: z.string().trim().min(1, 'Write your user name.').max(100),
	password: z.string().min(1, 'Write your password.').max(500)
});

/** Only a path of our own: a link that signs in and then leads elsewhere is not ours. */
const ownPath = (to: string | null): string =>
	to !== null && /^\/(?![/\\])/.test(to) && !to.startsWith('/sign-in') ? to : '/week';

export const load: PageServerLoad = async () => {
	const { db, settings } = await services();
	return {
		samples: settings.demo
			? await db.all<{ userName: string; name: string; title: string; role: string }>(
					`SELECT user_name AS userName, given_name || ' ' || family_name AS name, title, role
					FROM sign_in JOIN person ON person.id = person_id ORDER BY person_id`
				)
			: []
	};
};

export const actions: Actions = {
	default: async ({ request, cookies, url }) => {
		const form = await readForm(request);
		const parsed = formSchema.safeParse(form);
		const name = typeof form.name === 'string' ? form.name.slice(0, 100) : '';
		if (!parsed.success) {
			return fail(400, { name, why: parsed.error.issues.map((i) => i.message).join(' ') });
		}
		const { db, settings } = await services();
		const session = await signIn(db, parsed.data.name, parsed.data.password);
		if (!session) {
			return fail(400, {
				name,
				why: 'This user name and password do not fit together. Try again.'
			});
		}
		cookies.set('session', session.token, {
			path: '/',
			httpOnly: true,
			sameSite: 'lax',
			secure: settings.publicUrl.startsWith('https:'),
			expires: new Date(session.endsAt)
		});
		redirect(303, ownPath(url.searchParams.get('to')));
	}
};
