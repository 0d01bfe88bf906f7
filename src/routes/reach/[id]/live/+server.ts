import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { scope } from '$lib/server/access/may';
import { userOf } from '$lib/server/access/sessions';
import { type User } from '$lib/server/access/user';
import { sessionCookie } from '$lib/server/http/cookie';
import { listen } from '$lib/server/live';
import { services } from '$lib/server/services';

/** How often a line is shown to be there, and how long a look at its session is good for at most, ms. */
const beatMs = 10_000;
const lookMs = 2_000;

/** Server-sent events (WHATWG HTML, section 9.2): one `change` whenever evidence about the dispatch has come in. */
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
	const encoder = new TextEncoder();
	let stop = () => {};
	const body = new ReadableStream<Uint8Array>({
		start(controller) {
			const say = (text: string) => {
				try {
					controller.enqueue(encoder.encode(text));
				} catch {
					stop();
				}
			};
			say('retry: 2000\n\n');
			let looked = performance.now();
			/** The line ends with the session, and with the right to see what it is about. */
			const look = async () => {
				looked = performance.now();
				const user = await userOf(db, token).catch(() => locals.user!);
				if (user && (await maySee(user).catch(() => true))) return;
				say('event: ended\ndata: {}\n\n');
				stop();
				controller.close();
			};
			const unlisten = listen(db, id.data!, () => {
				if (performance.now() - looked > lookMs) void look();
				say('event: change\ndata: {}\n\n');
			});
			// A comment now and then keeps what stands in between from closing the line.
			const beat = setInterval(() => {
				say(': still here\n\n');
				void look();
			}, beatMs);
			stop = () => {
				clearInterval(beat);
				unlisten();
			};
			request.signal.addEventListener('abort', () => stop());
		},
		cancel: () => stop()
	});
	return new Response(body, {
		headers: { 'content-type': 'text/event-stream', 'x-accel-buffering': 'no' }
	});
};
