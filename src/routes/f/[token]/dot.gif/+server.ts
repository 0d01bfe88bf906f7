import { pictureLoaded } from '$lib/server/desk/family/requested';
import { tokenSchema } from '$lib/server/http/open-link';
import { services } from '$lib/server/services';
import { visitorOf } from '$lib/server/http/visitor';
import { openLink } from '$lib/server/access/private-link';

/** One transparent dot (GIF89a). */
const dot = Buffer.from('R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7', 'base64');

/** The picture in an email: asking for it is weak evidence. Whoever asks with a wrong token learns nothing. */
export const GET = async (event) => {
	const s = await services();
	const token = tokenSchema.safeParse(event.params.token);
	const link = token.success ? await openLink(s.db, token.data) : null;
	if (link?.ok && link.deliveryId !== null) {
		await pictureLoaded(s.db, link.deliveryId, visitorOf(s, event));
	}
	return new Response(dot, { headers: { 'content-type': 'image/gif' } });
};
