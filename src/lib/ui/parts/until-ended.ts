/**
 * Calls `ended` once when a line of server-sent events brings nothing any more: the server says so, or it refuses a line that
 * was lost and opened anew, which a browser does not try again by itself (WHATWG HTML, section 9.2.3: fail the connection).
 */
export function untilEnded(source: EventSource, ended: () => void): void {
	source.addEventListener('ended', () => {
		source.close();
		ended();
	});
	source.addEventListener('error', () => {
		if (source.readyState === EventSource.CLOSED) ended();
	});
}
