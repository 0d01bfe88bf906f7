/** A line of server-sent events to one browser (WHATWG HTML, section 9.2). */
export interface EventLine {
	/** Sends an event, with data on one line and the number by which a browser that comes back says how far it was; nothing where the line has ended. */
	say(event: string, data?: string, id?: number): void;
	/** Ends it, saying so. */
	end(): void;
}

/** How often a line is shown to be there, ms. */
const beatMs = 10_000;

/**
 * Answers with a line of events. `open` is given the line and returns what closes it; `beat` is called now and then while
 * the line is open: it ends there where whoever listens may no more.
 */
export function eventStream(
	request: Request,
	open: (line: EventLine) => () => void,
	beat: (line: EventLine) => void = () => {}
): Response {
	const encoder = new TextEncoder();
	let stop = () => {};
	const body = new ReadableStream<Uint8Array>({
		start(controller) {
			let over = false;
			const write = (text: string) => {
				if (over) return;
				try {
					controller.enqueue(encoder.encode(text));
				} catch {
					stop();
				}
			};
			const line: EventLine = {
				say: (event, data = '{}', id) =>
					write(`event: ${event}\ndata: ${data}\n${id === undefined ? '' : `id: ${id}\n`}\n`),
				end() {
					write('event: ended\ndata: {}\n\n');
					stop();
					controller.close();
				}
			};
			write('retry: 2000\n\n');
			const close = open(line);
			// A comment now and then keeps what stands in between from closing the line.
			const timer = setInterval(() => {
				write(': still here\n\n');
				beat(line);
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
