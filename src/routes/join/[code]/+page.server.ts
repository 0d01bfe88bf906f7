import { error, fail, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { joinPhrases } from '$lib/core/copy/join-phrases';
import { codeMissed, mayAsk, mayTryCode } from '$lib/server/access/join-tries';
import { readDistrict } from '$lib/server/db/district';
import {
	askByLink,
	groupTyped,
	joinFormSchema,
	joinOffered,
	languagesWanted
} from '$lib/server/desk/joining/by-link';
import { readForm } from '$lib/server/http/read-form';
import { outside, services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

const languageSchema = z.string().max(20).nullable().catch(null);

/** The group of the address, or the end of the request: whoever tries codes is held up. */
async function groupHere({
	params,
	request,
	getClientAddress
}: Pick<RequestEvent, 'request' | 'getClientAddress'> & { readonly params: { code: string } }) {
	const from = getClientAddress();
	const { db } = await services();
	const wanted = await languagesWanted(db, request.headers.get('accept-language'));
	if (!(await mayTryCode(from))) error(429, joinPhrases(wanted).wait);
	const group = await groupTyped(db, params.code);
	if (group) return { group, wanted };
	await codeMissed(from);
	error(404, joinPhrases(wanted).noCode);
}

export const load: PageServerLoad = async (event) => {
	const { group, wanted } = await groupHere(event);
	const { db } = await services();
	const chosen = languageSchema.parse(event.url.searchParams.get('language'));
	return {
		language: joinPhrases(chosen === null ? wanted : [chosen, ...wanted]).tag,
		offered: await joinOffered(db),
		district: (await readDistrict(db)).name,
		group: group.name,
		over: group.over,
		byText: (await outside()).smppUrl !== ''
	};
};

export const actions: Actions = {
	default: async (event) => {
		await groupHere(event);
		const { db } = await services();
		const typed = joinFormSchema.parse(await readForm(event.request));
		if (!(await mayAsk(event.getClientAddress())))
			return fail(429, { typed, fault: 'wait' as const, to: null });
		const asked = await askByLink(db, event.params.code, typed);
		if (!asked.ok)
			return fail(asked.fault === 'wait' ? 429 : 400, { typed, fault: asked.fault, to: null });
		return { typed, fault: null, to: asked.to };
	}
};
