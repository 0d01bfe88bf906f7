import { z } from 'zod';
import { userOf } from '$lib/server/access/listener';
import { talkKey } from '$lib/server/desk/replies/opened-talk';
import { sessionCookie } from '$lib/server/http/cookie';
import { eventStream, type EventLine } from '$lib/server/http/event-stream';
import { comeIn, everyTalk, listenToTalk } from '$lib/server/live/talk';
import { services } from '$lib/server/services';

const openSchema = z.coerce.number().int().positive().nullable().catch(null);

/** Server-sent events: one `change` whenever something was said in a conversation; whoever has one open is there. */
export const GET = async ({ url, locals, request, cookies }) => {
	const { db, settings } = await services();
	const token = cookies.get(sessionCookie(settings));
	const open = openSchema.parse(url.searchParams.get('open'));
	const key = open === null ? null : await talkKey(db, locals.user!, open);
	/** The line ends with the session, and with the right to see what is open. */
	const look = async (line: EventLine) => {
		const user = await userOf(db, token).catch(() => locals.user!);
		if (user && (open === null || (await talkKey(db, user, open)) === key)) return;
		line.end();
	};
	return eventStream(
		request,
		(line) => {
			const stops = [listenToTalk(db, everyTalk, () => line.say('change'))];
			if (key !== null) {
				// Whoever comes in tells the others, not themselves.
				stops.push(comeIn(key, { name: locals.user!.name }));
				stops.push(listenToTalk(db, key, () => line.say('change')));
			}
			return () => stops.forEach((stop) => stop());
		},
		look
	);
};
