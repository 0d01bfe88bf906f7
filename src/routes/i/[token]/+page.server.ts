import { error, fail } from '@sveltejs/kit';
import { z } from 'zod';
import { comingFault } from '$lib/core/copy/coming-fault';
import { guestPhrases } from '$lib/core/copy/guest-phrases';
import { codeMissed, mayAsk, mayTryCode } from '$lib/server/access/join-tries';
import { askGuest, openInvitation } from '$lib/server/desk/invitations/guests';
import { leftOf } from '$lib/server/desk/invitations/places';
import { comingFormSchema } from '$lib/server/http/coming-form';
import { comingPage } from '$lib/server/http/coming-page';
import { readForm } from '$lib/server/http/read-form';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad, RequestEvent } from './$types';

const languageSchema = z.string().max(20).nullable().catch(null);
const typedSchema = z.object({
	name: z.string().trim().max(200).catch(''),
	address: z.string().trim().max(320).catch('')
});

/** The invitation of the address with what its page says of itself, or the end of the request: whoever tries links is held up. */
async function invitationHere({ params, request, url, getClientAddress }: RequestEvent) {
	const from = getClientAddress();
	const { db, key } = await services();
	const { noLinkHere, wait } = guestPhrases(
		request.headers.get('accept-language')?.slice(0, 2) ?? 'en'
	);
	if (!(await mayTryCode(from))) error(429, wait);
	const asked = await openInvitation(db, key, params.token);
	if (!asked) {
		await codeMissed(from);
		error(404, noLinkHere);
	}
	const chosen = languageSchema.parse(url.searchParams.get('language'));
	return { asked, page: await comingPage(db, asked, { chosen, request }) };
}

export const load: PageServerLoad = async (event) => {
	const { asked, page } = await invitationHere(event);
	const { db } = await services();
	const { id, until, open, asking } = asked;
	return {
		...page,
		invitation: { id, until, open, most: asking.most, ...(await leftOf(db, asked)), mine: null }
	};
};

export const actions: Actions = {
	default: async (event) => {
		const { asked, page } = await invitationHere(event);
		const { db, key } = await services();
		const form = await readForm(event.request);
		const typed = typedSchema.parse(form);
		const said = comingFormSchema.safeParse(form);
		const no = (why: Parameters<typeof comingFault>[0], status: number) =>
			fail(status, { typed, fault: comingFault(why, page.language, asked.asking.most), to: null });
		if (!said.success) return no('no-people', 400);
		if (!(await mayAsk(event.getClientAddress()))) return no('wait', 429);
		const done = await askGuest(db, key, event.params.token, {
			...{ ...typed, ...said.data, language: page.language }
		});
		return done.ok
			? { typed, fault: '', to: done.to }
			: no(done.why, done.why === 'wait' ? 429 : 400);
	}
};
