import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { scope } from '$lib/server/access/may';
import { userOf } from '$lib/server/access/sessions';
import { type User } from '$lib/server/access/user';
import { sessionCookie } from '$lib/server/http/cookie';
import { eventStream, type EventLine } from '$lib/server/http/event-stream';
import { listen } from '$lib/server/live/dispatch';
import { services } from '$lib/server/services';

/** How long a look at a line's session is good for at most, ms. */
const lookMs = 2_000;

/** Server-sent events: one `change` whenever evidence about the dispatch has come in. */
export const GET = async ({ params, locals, request, cookies }) => {
	const id = z.coerce.number().int().positive().safeParse(params.id);
	const { db, settings } = await services();
	const token = cookies.get(sessionCookie(settings));
	const maySee = async (user: User) => {
		const condition = scope(user).dispatches;
		return (
			id.success &&
			(await db.one(`SELECT 1 FROM dispatch WHERE id = $id AND ${condition.sql}`, {
				id: id.data,
				...condition.bind
			})) !== undefined
		);
	};
	if (!(await maySee(locals.user!)))
		error(404, 'There is no such dispatch, or it is not yours to see.');
	let looked = performance.now();
	/** The line ends with the session, and with the right to see what it is about. */
	const look = async (line: EventLine) => {
		looked = performance.now();
		const user = await userOf(db, token).catch(() => locals.user!);
		if (user && (await maySee(user).catch(() => true))) return;
		line.end();
	};
	return eventStream(
		request,
		(line) =>
			listen(db, id.data!, () => {
				if (performance.now() - looked > lookMs) void look(line);
				line.say('change');
			}),
		(line) => void look(line)
	);
};
