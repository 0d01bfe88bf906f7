import { error, fail } from '@sveltejs/kit';
import { sayChecked, wordsOfLanguage } from '$lib/server/desk/district/words-checked';
import { setting } from '$lib/server/http/may-set';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, locals }) => {
	const { db } = await setting(locals.user!);
	const language = await wordsOfLanguage(db, params.tag);
	if (!language) error(404, 'There are no words of ours in this language.');
	return { language };
};

export const actions: Actions = {
	default: async ({ params, locals }) => {
		const { db } = await setting(locals.user!);
		const said = await sayChecked(db, locals.user!, params.tag);
		return said.ok ? { said: true } : fail(400, { why: said.why });
	}
};
