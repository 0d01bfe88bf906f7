import { fail, redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { joinPhrases } from '$lib/core/copy/join-phrases';
import { codeMissed, mayTryCode } from '$lib/server/access/join-tries';
import { readDistrict } from '$lib/server/db/district';
import { groupTyped, joinOffered, languagesWanted } from '$lib/server/desk/joining/by-link';
import { readForm } from '$lib/server/http/read-form';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

const codeSchema = z.string().trim().max(60).catch('');
const languageSchema = z.string().max(20).nullable().catch(null);

export const load: PageServerLoad = async ({ url, request }) => {
	const { db } = await services();
	const chosen = languageSchema.parse(url.searchParams.get('language'));
	const wanted = await languagesWanted(db, request.headers.get('accept-language'));
	const { tag } = joinPhrases(chosen === null ? wanted : [chosen, ...wanted]);
	return {
		...{ language: tag, offered: await joinOffered(db) },
		district: (await readDistrict(db)).name
	};
};

export const actions: Actions = {
	default: async ({ request, getClientAddress, url }) => {
		const code = codeSchema.parse((await readForm(request)).code);
		const from = getClientAddress();
		if (!(await mayTryCode(from))) return fail(429, { fault: 'wait' as const, code });
		const { db } = await services();
		const group = await groupTyped(db, code);
		if (!group) {
			await codeMissed(from);
			return fail(404, { fault: 'noCode' as const, code });
		}
		redirect(303, `/join/${group.code!.toLowerCase()}${url.search}`);
	}
};
