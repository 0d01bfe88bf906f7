import { fail } from '@sveltejs/kit';
import { z } from 'zod';
import { inboxOf, letterHappened, linkFollowed } from '$lib/server/desk/family/family';
import { openedLink } from '$lib/server/http/open-link';
import { services } from '$lib/server/services';
import { visitorOf } from '$lib/server/http/visitor';
import type { Actions, PageServerLoad } from './$types';
import { readForm } from '$lib/server/http/read-form';

const keySchema = z.string().max(40);
const letterSchema = z.coerce.number().int().positive();

export const load: PageServerLoad = async (event) => {
	const { params, url } = event;
	const s = await services();
	const link = await openedLink(s, params.token);
	const inbox = await inboxOf(s.db, link.personId, `/f/${params.token}`);
	// Asking for the page is itself the evidence that the link was followed.
	if (link.deliveryId !== null) {
		await linkFollowed(s.db, link.deliveryId, visitorOf(s, event));
	}
	const wanted = keySchema.safeParse(url.searchParams.get('letter'));
	const open =
		inbox.letters.find((l) => wanted.success && l.key === wanted.data) ??
		inbox.letters.find((l) => l.dispatchId !== null && l.dispatchId === link.dispatchId) ??
		inbox.letters.find((l) => l.seenAt === null && l.mayAcknowledge) ??
		inbox.letters[0];
	return { inbox, open: open ? { key: open.key, dispatchId: open.dispatchId } : null };
};

export const actions: Actions = {
	seen: async (event) => {
		const { params, request } = event;
		const s = await services();
		const link = await openedLink(s, params.token);
		const letter = letterSchema.safeParse((await readForm(request)).letter);
		const result = letter.success
			? await letterHappened(s.db, link, letter.data, 'acknowledged', visitorOf(s, event))
			: null;
		if (!result)
			return fail(400, { why: 'This letter is not in your inbox any more. Load the page again.' });
		return { seen: letter.data };
	}
};
