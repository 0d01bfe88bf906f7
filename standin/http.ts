import { createServer, type IncomingMessage, type Server } from 'node:http';

/** A small HTTP desk of a stand-in: routes by "METHOD /path", JSON in and out. Errors come back as {error}. */
export type Handler = (url: URL, body: unknown) => unknown;

const readBody = async (request: IncomingMessage): Promise<unknown> => {
	const chunks: Buffer[] = [];
	for await (const chunk of request) chunks.push(chunk as Buffer);
	const text = Buffer.concat(chunks).toString('utf8');
	return text === '' ? null : JSON.parse(text);
};

/** Serves the routes on a port of this machine. */
export function serve(port: number, routes: Readonly<Record<string, Handler>>): Promise<Server> {
	const server = createServer((request, response) => {
		const url = new URL(request.url ?? '/', 'http://standin');
		const handler = routes[`${request.method} ${url.pathname}`];
		const answer = (code: number, value: unknown) => {
			response.writeHead(code, { 'content-type': 'application/json' });
			response.end(JSON.stringify(value ?? null));
		};
		if (!handler) return answer(404, { error: `nothing at ${request.method} ${url.pathname}` });
		readBody(request)
			.then((body) => handler(url, body))
			.then(
				(value) => answer(200, value),
				(error: Error) => answer(400, { error: error.message })
			);
	});
	return new Promise((resolve, reject) => {
		server.once('error', reject);
		server.listen(port, '127.0.0.1', () => resolve(server));
	});
}

/** A whole number from the environment. */
export const port = (name: string, fallback: number): number => {
	const value = Number(process.env[name] ?? fallback);
	if (!Number.isInteger(value) || value < 1 || value > 65535) {
		throw new Error(`${name} must be a port, 1 to 65535.`);
	}
	return value;
};
