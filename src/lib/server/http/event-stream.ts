/** A line of server-sent events to one browser (WHATWG HTML, section 9.2). */
export interface EventLine {
	/** Sends an event, with data on one line and the number by which a browser that comes back says how far it was; nothing where the line has ended. */
	say(event: string, data?: string, id?: number): void;
	/** Ends it, saying so; nothing where it has ended. */
	end(): void;
}

const encoder = new TextEncoder();

/** What an event is, as it was said last: the same is told to hundreds of lines one after another, and written once for them. */
let last: { readonly of: readonly unknown[]; readonly bytes: Uint8Array } = {
	of: [],
	bytes: new Uint8Array()
};

/** The bytes of an event. */
function frame(event: string, data: string, id: number | undefined): Uint8Array {
	const [e, d, i] = last.of;
	if (e !== event || d !== data || i !== id) {
		const text = `event: ${event}\ndata: ${data}\n${id === undefined ? '' : `id: ${id}\n`}\n`;
		last = { of: [event, data, id], bytes: encoder.encode(text) };
	}
	return last.bytes;
}

/** How often a line is shown to be there, ms. */
const beatMs = 10_000;

/** So much may wait for the other end at most: a machine that was shut takes nothing, and its line is not known to be dead for a quarter of an hour. */
const mostWaiting = 200;

/**
 * Answers with a line of events. `open` is given the line and returns what closes it; `beat` is called now and then while
 * the line is open: it ends there where whoever listens may no more.
 */
export function eventStream(
	request: Request,
	open: (line: EventLine) => () => void,
	beat: (line: EventLine) => Promise<unknown> = async () => {}
): Response {
	let stop = () => {};
	const body = new ReadableStream<Uint8Array>({
		start(controller) {
			let over = false;
			const write = (text: string | Uint8Array) => {
				if (over) return;
				try {
					if (controller.desiredSize! < -mostWaiting) {
						stop();
						// A browser that comes back says how far it was.
						controller.error(new Error('the other end takes nothing any more'));
					} else controller.enqueue(typeof text === 'string' ? encoder.encode(text) : text);
				} catch {
					stop();
				}
			};
			const line: EventLine = {
				say: (event, data = '{}', id) => write(frame(event, data, id)),
				end() {
					write('event: ended\ndata: {}\n\n');
					// Also by another look at the same moment, or by whoever listened.
					if (over) return;
					stop();
					controller.close();
				}
			};
			write('retry: 2000\n\n');
			const close = open(line);
			// A comment now and then keeps what stands in between from closing the line.
			const timer = setInterval(() => {
				write(': still here\n\n');
				// What could not be found out is asked again at the next.
				beat(line).catch(() => {});
			}, beatMs);
			stop = () => {
				if (over) return;
				over = true;
				clearInterval(timer);
				close();
			};
			request.signal.addEventListener('abort', () => stop());
		},
		cancel: () => stop()
	});
	return new Response(body, {
		headers: { 'content-type': 'text/event-stream', 'x-accel-buffering': 'no' }
	});
}
