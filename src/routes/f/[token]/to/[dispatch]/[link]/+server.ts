import { error, redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { followWordLink } from '$lib/server/desk/family/requested';
import { openedLink } from '$lib/server/http/open-link';
import { services } from '$lib/server/services';
import { visitorOf } from '$lib/server/http/visitor';

const idSchema = z.coerce.number().int().nonnegative();

/** A link in the words of a letter: leads on to the page that the sender put there, and to no other. */
export const GET = async (event) => {
	const s = await services();
	const link = await openedLink(s, event.params.token);
	const dispatch = idSchema.safeParse(event.params.dispatch);
	const place = idSchema.safeParse(event.params.link);
	const href =
		dispatch.success && place.success
			? await followWordLink(s.db, link, dispatch.data, place.data, visitorOf(s, event))
			: null;
	if (!href) error(404, 'No letter of yours has this link. Open it from the letter again.');
	redirect(303, href);
};
