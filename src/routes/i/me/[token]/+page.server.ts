import { error, fail } from '@sveltejs/kit';
import { z } from 'zod';
import { comingFault } from '$lib/core/copy/coming-fault';
import { guestPhrases } from '$lib/core/copy/guest-phrases';
import { answerAsGuest, openGuest } from '$lib/server/desk/invitations/guests';
import { comingFormSchema } from '$lib/server/http/coming-form';
import { comingPage } from '$lib/server/http/coming-page';
import { readForm } from '$lib/server/http/read-form';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad, RequestEvent } from './$types';

const languageSchema = z.string().max(20).nullable().catch(null);

async function guestHere({ params, request, url }: RequestEvent) {
	const { db, key } = await services();
	const own = await openGuest(db, key, params.token);
	if (!own) error(404, guestPhrases('en').noLinkHere);
	const chosen = languageSchema.parse(url.searchParams.get('language'));
	return {
		own,
		page: await comingPage(db, own.asked, { chosen, request, usual: own.guest.language })
	};
}

/** A link that a machine opens changes nothing: only what is said on the page does. */
export const load: PageServerLoad = async (event) => {
	const { own, page } = await guestHere(event);
	const { guest, invitation, wanted, fresh } = own;
	return {
		...page,
		...{ name: guest.name, address: guest.address, confirmed: guest.confirmedAt !== null },
		...{ invitation, wanted, fresh }
	};
};

async function take(event: RequestEvent, form: Parameters<typeof answerAsGuest>[3]) {
	const { own, page } = await guestHere(event);
	const { db, key } = await services();
	const done = await answerAsGuest(db, key, event.params.token, form);
	return done.ok
		? { fault: '' }
		: fail(done.why === 'too-often' ? 429 : 409, {
				fault: comingFault(done.why, page.language, own.asked.asking.most)
			});
}

export const actions: Actions = {
	/** It was they: what they said holds from now on. */
	confirm: async (event) => {
		await readForm(event.request);
		return take(event, null);
	},
	change: async (event) => {
		const said = comingFormSchema.safeParse(await readForm(event.request));
		if (said.success) return take(event, said.data);
		const { own, page } = await guestHere(event);
		return fail(400, { fault: comingFault('no-people', page.language, own.asked.asking.most) });
	}
};
