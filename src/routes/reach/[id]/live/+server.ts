import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { dispatchCondition, rightsBind } from '$lib/server/access/rights';
import { listen } from '$lib/server/live';
import { services } from '$lib/server/services';

/** Server-sent events (WHATWG HTML, section 9.2): one `change` whenever evidence about the dispatch has come in. */
export const GET = async ({ params, locals, request }) => {
	const id = z.coerce.number().int().positive().safeParse(params.id);
	const { db } = await services();
	const condition = dispatchCondition(locals.user!);
	const allowed =
		id.success &&
		(await db.one(`SELECT 1 FROM dispatch WHERE id = $id AND ${condition}`, {
			id: id.data,
			...rightsBind(locals.user!, condition)
		}));
	if (!allowed) error(404, 'There is no such dispatch, or it is not yours to see.');
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
			const unlisten = listen(db, id.data!, () => say('event: change\ndata: {}\n\n'));
			// A comment now and then keeps what stands in between from closing the line.
			const beat = setInterval(() => say(': still here\n\n'), 20_000);
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
