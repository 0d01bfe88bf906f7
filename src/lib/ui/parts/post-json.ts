/** What a server route answered. Without a connection the status is 0 and the message says so. */
export interface Answer<T> {
	readonly ok: boolean;
	readonly status: number;
	/** What was asked for where `ok`; else an object that says why not. */
	readonly body: T;
	/** Why it did not work, in words to be shown; empty where it did. */
	readonly why: string;
	/** Whether there was a connection, and no answer in time. */
	readonly hung?: boolean;
}

const noConnection = 'No connection. Try again in a moment.';
const noAnswer = 'The server does not answer. Try again in a moment.';

async function answerOf<T>(request: Promise<Response>): Promise<Answer<T>> {
	try {
		const response = await request;
		const body = await response.json();
		const why = response.ok ? '' : String(body.why ?? body.message ?? 'That did not work.');
		return { ok: response.ok, status: response.status, body, why };
	} catch (error) {
		const hung = (error as Error).name === 'TimeoutError';
		return { ok: false, status: 0, body: {} as T, why: hung ? noAnswer : noConnection, hung };
	}
}

/** Posts JSON to a route of ours and reads its answer; never throws. Without an answer within `timeoutMs` it is as without a connection. */
export const postJson = <T>(url: string, body: unknown, timeoutMs?: number): Promise<Answer<T>> =>
	answerOf(
		fetch(url, {
			method: 'POST',
			headers: { 'content-type': 'application/json', accept: 'application/json' },
			body: JSON.stringify(body),
			...(timeoutMs === undefined ? {} : { signal: AbortSignal.timeout(timeoutMs) })
		})
	);

/** Asks a route of ours to take something away; never throws. */
export const deleteJson = <T>(url: string, body: unknown): Promise<Answer<T>> =>
	answerOf(
		fetch(url, {
			method: 'DELETE',
			headers: { 'content-type': 'application/json', accept: 'application/json' },
			body: JSON.stringify(body)
		})
	);

/** Asks a route of ours for JSON; never throws. */
export const getJson = <T>(url: string): Promise<Answer<T>> =>
	answerOf(fetch(url, { headers: { accept: 'application/json' } }));
