import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { scope } from '$lib/server/access/may';
import { userOf } from '$lib/server/access/listener';
import { type User } from '$lib/server/access/user';
import { sessionCookie } from '$lib/server/http/cookie';
import { newestEvent } from '$lib/server/db/newest-event';
import { eventStream, type EventLine } from '$lib/server/http/event-stream';
import { lineThatAsks } from '$lib/server/http/still-may';
import { listenToSaid } from '$lib/server/live/dispatch';
import { followReach } from '$lib/server/live/reach';
import { ask } from '$lib/server/planner/planner';
import { services } from '$lib/server/services';

/** How long a look at a line's session is good for at most, ms. */
const lookMs = 2_000;

const idSchema = z.coerce.number().int().positive();
/** The newest event that the page counts; one that does not say it is told what comes from now on. */
const sinceSchema = z.coerce.number().int().min(0).nullable().catch(null);

/** Server-sent events: `change` with what has changed whenever evidence about the dispatch has come in; `anew` where the page is to be asked for. */
export const GET = async ({ params, url, locals, request, cookies }) => {
	const id = idSchema.safeParse(params.id);
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
	// A browser that lost the line says how far it was (WHATWG HTML, section 9.2.4).
	const said = request.headers.get('last-event-id') ?? url.searchParams.get('since');
	const since = sinceSchema.parse(said || null) ?? (await newestEvent(db));
	const asks =
		(await db.one(`SELECT 1 FROM dispatch WHERE id = $id AND invitation != 'null'`, {
			id: id.data!
		})) !== undefined;
	/** The line ends with the session, and with the right to see what it is about. */
	const look = async (line: EventLine): Promise<boolean> => {
		const user = await userOf(db, token).catch(() => locals.user!);
		if (user && (await maySee(user).catch(() => true))) return true;
		line.end();
		return false;
	};
	return eventStream(
		request,
		(line) => {
			// It says something of the dispatch: whoever may see it no more is not told.
			const mine = lineThatAsks(line, { ask: () => look(line), goodForMs: lookMs });
			const stops = [
				followReach(db, { id: id.data!, since }, mine, (...asked) => ask('reachNews', ...asked)),
				// One who has just come is told once: only where there can be something is that worth a page.
				...(asks ? [listenToSaid(db, id.data!, () => mine.say('anew'))] : [])
			];
			return () => stops.forEach((stop) => stop());
		},
		look
	);
};
