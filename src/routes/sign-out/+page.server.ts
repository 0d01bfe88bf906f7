import { redirect } from '@sveltejs/kit';
import { signOut } from '$lib/server/access/sessions';
import { isSecure, sessionCookie } from '$lib/server/http/cookie';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

/** Signing out changes something, so it is not done by following a link. */
export const load: PageServerLoad = () => redirect(303, '/week');

export const actions: Actions = {
	default: async ({ cookies }) => {
		const { db, settings } = await services();
		const token = cookies.get(sessionCookie(settings));
		if (token) await signOut(db, token);
		cookies.delete(sessionCookie(settings), { path: '/', secure: isSecure(settings) });
		redirect(303, '/sign-in');
	}
};
