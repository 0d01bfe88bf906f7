import { z } from 'zod';
import { kindOfDispatch, setStopped } from '$lib/server/desk/family/own-choices';
import { openedLink } from '$lib/server/http/open-link';
import { services } from '$lib/server/services';

const oneClickSchema = z.literal('One-Click');

/** A mail program stops a kind of message for its user in one step: RFC 8058 section 3.2. The link alone is the right to do it. */
export const POST = async ({ params, request }) => {
	const s = await services();
	const link = await openedLink(s, params.token);
	const kind = await kindOfDispatch(s.db, link.dispatchId);
	const form = await request.formData().catch(() => null);
	if (!kind || !oneClickSchema.safeParse(form?.get('List-Unsubscribe')).success) {
		return new Response('This is no request to stop.', { status: 400 });
	}
	await setStopped(s.db, link.personId, kind, true);
	return new Response('Stopped.');
};
