import { fail } from '@sveltejs/kit';
import { z } from 'zod';
import { linkLanguage, linkPhrases } from '$lib/core/copy/link-phrases';
import { mayAskForLink } from '$lib/server/access/link-tries';
import { readDistrict } from '$lib/server/db/district';
import { askForLink } from '$lib/server/desk/replies/ask-link';
import { readForm } from '$lib/server/http/read-form';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

/** The language asked for in the address, else what the browser reads (RFC 9110 section 12.5.4). */
const languageOf = (url: URL, request: Request): string =>
	linkLanguage(
		[
			url.searchParams.get('language') ?? '',
			...(request.headers.get('accept-language') ?? '')
				.slice(0, 500)
				.split(',')
				.map((part) => part.split(';')[0]!.trim())
		].filter((tag) => /^[a-z]{2,3}(-[a-z0-9]{2,8})*$/i.test(tag))
	);

export const load: PageServerLoad = async ({ url, request }) => {
	const { db } = await services();
	const language = languageOf(url, request);
	return {
		language,
		words: linkPhrases[language]!,
		languages: Object.entries(linkPhrases).map(([tag, { name }]) => ({ tag, name })),
		district: (await readDistrict(db)).name
	};
};

const addressSchema = z.string().trim().min(3).max(320);

export const actions: Actions = {
	default: async ({ request, url, getClientAddress }) => {
		const s = await services();
		const words = linkPhrases[languageOf(url, request)]!;
		const address = addressSchema.safeParse((await readForm(request)).address);
		if (!address.success) return fail(400, { why: words.wrong });
		if (!(await mayAskForLink(getClientAddress()))) return fail(429, { why: words.wait });
		return (await askForLink(s.db, s.key, address.data))
			? { sent: true }
			: fail(400, { why: words.wrong });
	}
};
