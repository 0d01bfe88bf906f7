import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { openLink } from '$lib/server/access/private-link';
import { eventStream } from '$lib/server/http/event-stream';
import { openedLink } from '$lib/server/http/open-link';
import { comeIn, hasRoom, listenToTalk } from '$lib/server/live/talk';
import { services } from '$lib/server/services';

const letterSchema = z.coerce.number().int().positive();

/** Server-sent events for a family's page that shows a letter: one `change` whenever something was said about it; whoever listens is there. */
export const GET = async ({ params, url, request }) => {
	const s = await services();
	const link = await openedLink(s, params.token);
	const letter = letterSchema.safeParse(url.searchParams.get('letter'));
	if (!letter.success) error(404, 'There is no such letter here.');
	const key = `d${letter.data} p${link.personId}` as const;
	if (!hasRoom(key))
		error(429, 'This letter is open in too many places at once. Close some of them.');
	return eventStream(
		request,
		(line) => {
			// Whoever comes in tells the others, not themselves.
			const stops = [comeIn(key, 'family'), listenToTalk(s.db, key, () => line.say('change'))];
			return () => stops.forEach((stop) => stop());
		},
		// A link that has been ended shows nothing any more.
		async (line) => {
			if (!(await openLink(s.db, params.token)).ok) line.end();
		}
	);
};
