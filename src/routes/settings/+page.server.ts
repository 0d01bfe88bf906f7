import { redirect } from '@sveltejs/kit';
import { chaptersOf } from '$lib/server/desk/office/chapters';
import type { PageServerLoad } from './$types';

/** Settings open at the first chapter that somebody may open. */
export const load: PageServerLoad = ({ locals }) =>
	redirect(303, chaptersOf(locals.user!)[0]!.path);
