import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import { generateAtomFeed, generateRssFeed } from 'feedsmith';
import Mustache from 'mustache';
import { port } from '../http';

/**
 * The newsroom: somebody else's news page with a feed, as RSS 2.0 (/feed.xml) and Atom (/atom.xml). Entries are
 * written into it on its page, or by POST /entries as JSON; by POST /fault it fails as feeds do.
 */
const httpPort = port('NEWSROOM_HTTP_PORT', 2985);
const home = `http://localhost:${httpPort}`;

/** How it fails: not there, never answers, no feed, a bomb of entities, larger than anybody takes, leads into the house. */
const faults = ['gone', 'slow', 'nonsense', 'bomb', 'huge', 'inside'] as const;
type Fault = (typeof faults)[number];

interface Entry {
	readonly id: string;
	readonly title: string;
	readonly words: string;
	readonly picture: boolean;
	readonly at: Date;
}
let entries: Entry[] = [
	{
		...{ id: 'tag:newsroom.example,2027:1', title: 'Winter hours at the harbor library' },
		words:
			'The library by the ferry landing closes at six from Monday on. Books go back by the box at the door at any hour.',
		...{ picture: false, at: new Date('2027-02-26T16:00:00Z') }
	},
	{
		...{ id: 'tag:newsroom.example,2027:2', title: 'The lighthouse keeps its lamp' },
		words:
			'After the storm the lamp was looked over. It shines as before.\n\nThe keeper thanks everybody who carried sand.',
		...{ picture: true, at: new Date('2027-03-01T09:30:00Z') }
	}
];
let fault: Fault | null = null;

/** A picture of sea green, PNG. */
const picture = Buffer.from(
	'iVBORw0KGgoAAAANSUhEUgAAABgAAAAMCAIAAAD3UuoiAAAAF0lEQVR42mPgj0mmCmIYNWjUoFGD8CEAPqDnwdABN9YAAAAASUVORK5CYII=',
	'base64'
);

const html = (words: string): string =>
	words
		.split(/\n{2,}/)
		.map((p) => `<p>${Mustache.escape(p)}</p>`)
		.join('');
const newest = (): Entry[] => [...entries].sort((a, b) => b.at.getTime() - a.at.getTime());

const rss = (): string =>
	generateRssFeed({
		title: 'Harbor News',
		link: home,
		description: 'What happens around the harbor',
		items: newest().map((e) => ({
			title: e.title,
			link: `${home}/#${encodeURIComponent(e.id)}`,
			guid: { value: e.id, isPermaLink: false },
			description: html(e.words),
			pubDate: e.at,
			...(e.picture
				? {
						enclosures: [{ url: `${home}/picture.png`, length: picture.length, type: 'image/png' }]
					}
				: {})
		}))
	});

const atom = (): string =>
	generateAtomFeed({
		id: 'tag:newsroom.example,2027:feed',
		title: { value: 'Harbor News' },
		updated: newest()[0]?.at ?? new Date(0),
		links: [{ href: home }],
		entries: newest().map((e) => ({
			id: e.id,
			title: { value: e.title },
			updated: e.at,
			links: [{ href: `${home}/#${encodeURIComponent(e.id)}` }],
			content: { value: html(e.words), type: 'html' }
		}))
	});

const bomb = `<?xml version="1.0"?><!DOCTYPE rss [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;&a;&a;&a;&a;&a;&a;&a;">]>
<rss version="2.0"><channel><title>&b;</title></channel></rss>`;

/** Answers as a feed does that has something wrong with it. */
function fail(how: Fault, response: ServerResponse): void {
	const say = (status: number, body: string, headers = {}) =>
		void response.writeHead(status, { 'content-type': 'application/xml', ...headers }).end(body);
	switch (how) {
		case 'gone':
			return say(410, '');
		case 'slow':
			return;
		case 'nonsense':
			return say(200, '<!doctype html><title>Under construction</title>');
		case 'bomb':
			return say(200, bomb);
		case 'huge':
			return say(200, ' '.repeat(6_000_000));
		case 'inside':
			return say(302, '', { location: 'http://127.0.0.1:1/' });
	}
}

const page =
	(): string => `<!doctype html><html lang="en"><meta charset="utf-8"><title>Harbor News</title>
<h1>Harbor News</h1><p>A stand-in of the demo. Its feed: <a href="/feed.xml">RSS</a>, <a href="/atom.xml">Atom</a>.</p>
<form method="post" action="/write"><p><label>Title <input name="title" required maxlength="200"></label></p>
<p><label>Words <textarea name="words" rows="4" cols="60"></textarea></label></p>
<p><label><input type="checkbox" name="picture"> with a picture</label></p><p><button>Write it</button></p></form>
${newest()
	.map(
		(e) =>
			`<article id="${Mustache.escape(e.id)}"><h2>${Mustache.escape(e.title)}</h2>${html(e.words)}</article>`
	)
	.join('')}`;

const read = async (request: IncomingMessage): Promise<string> => {
	const chunks: Buffer[] = [];
	for await (const chunk of request) chunks.push(chunk as Buffer);
	return Buffer.concat(chunks).toString('utf8');
};

function write({
	title,
	words,
	picture: withPicture,
	at,
	id
}: Partial<Record<keyof Entry, unknown>>): void {
	const entry = {
		id: typeof id === 'string' ? id : `tag:newsroom.example,2027:${Date.now()}-${entries.length}`,
		title: typeof title === 'string' ? title : '',
		words: typeof words === 'string' ? words : '',
		picture: Boolean(withPicture),
		at: typeof at === 'string' ? new Date(at) : new Date()
	};
	// The same id again: the entry was changed.
	entries = [...entries.filter((e) => e.id !== entry.id), entry];
}

/** An answer that need not be given again to who has it already (RFC 9110 section 13). */
function feed(
	request: IncomingMessage,
	response: ServerResponse,
	type: string,
	body: string
): void {
	const etag = `"${entries.length}-${newest()[0]?.at.getTime() ?? 0}"`;
	if (request.headers['if-none-match'] === etag)
		return void response.writeHead(304, { etag }).end();
	response.writeHead(200, { 'content-type': `${type}; charset=utf-8`, etag }).end(body);
}

const server = createServer((request, response) => {
	const { pathname } = new URL(request.url ?? '/', home);
	const json = (value: unknown) =>
		void response.writeHead(200, { 'content-type': 'application/json' }).end(JSON.stringify(value));
	void (async () => {
		switch (`${request.method} ${pathname}`) {
			case 'GET /health':
				return json({ entries: entries.length, fault });
			case 'GET /feed.xml':
				return fault
					? fail(fault, response)
					: feed(request, response, 'application/rss+xml', rss());
			case 'GET /atom.xml':
				return fault
					? fail(fault, response)
					: feed(request, response, 'application/atom+xml', atom());
			case 'GET /picture.png':
				return void response.writeHead(200, { 'content-type': 'image/png' }).end(picture);
			case 'GET /':
				return void response.writeHead(200, { 'content-type': 'text/html' }).end(page());
			case 'POST /entries':
				write(JSON.parse(await read(request)) as Record<string, unknown>);
				return json({ entries: entries.length });
			case 'POST /write': {
				const form = new URLSearchParams(await read(request));
				write({ title: form.get('title'), words: form.get('words'), picture: form.get('picture') });
				return void response.writeHead(303, { location: '/' }).end();
			}
			case 'POST /fault': {
				const wanted = (JSON.parse(await read(request)) as { fault?: unknown }).fault ?? null;
				fault = faults.includes(wanted as Fault) ? (wanted as Fault) : null;
				return json({ fault });
			}
			default:
				response.writeHead(404).end();
		}
	})().catch(() => response.writeHead(400).end());
});
server.listen(httpPort, '127.0.0.1', () => process.stdout.write(`newsroom: at ${home}\n`));
