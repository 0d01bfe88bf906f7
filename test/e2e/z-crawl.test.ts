import { readFileSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import { draws } from '../unit/random';
import { sheetOf } from '../unit/server/database';
import { stack, type Stack } from './stack';

/**
 * A generated crawl: every route by every method and action, as everybody, with input that makes no sense or nearly makes
 * sense. Nothing answers with an error of ours (500), and what is refused has changed nothing. It is the last file: what it
 * does to the demo data is nobody's business after it.
 */
const requests = { reading: 1_800, writing: 3_200 };

interface Door {
	readonly path: string;
	readonly method: string;
	/** Of a page, what its form does; null for a route that takes JSON or a file. */
	readonly action: string | null;
}

const walk = (folder: string): string[] =>
	readdirSync(folder).flatMap((name) => {
		const path = join(folder, name);
		return statSync(path).isDirectory() ? walk(path) : [path];
	});

const root = 'src/routes';
const dateActions = [
	...readFileSync('src/lib/server/http/date-actions.ts', 'utf8').matchAll(/^\t(\w+): async/gm)
].map((m) => m[1]!);

function doors(): Door[] {
	const found: Door[] = [];
	for (const file of walk(root)) {
		const path = file.slice(root.length, file.lastIndexOf('/')) || '/';
		const text = readFileSync(file, 'utf8');
		if (file.endsWith('+server.ts')) {
			for (const [, method] of text.matchAll(/export const (GET|POST|PUT|PATCH|DELETE)\b/g)) {
				found.push({ path, method: method!, action: null });
			}
		} else if (file.endsWith('+page.svelte')) found.push({ path, method: 'GET', action: null });
		else if (file.endsWith('+page.server.ts') && /export const actions/.test(text)) {
			const part = text.slice(text.indexOf('export const actions'));
			const names = [...part.matchAll(/^\t(\w+): (?:async )?\(/gm)].map((m) => m[1]!);
			for (const action of [...names, ...(/dateActions/.test(part) ? dateActions : [])]) {
				found.push({ path, method: 'POST', action });
			}
		}
	}
	return found;
}

/** Names that schemas, forms and addresses speak of, out of the code itself. */
const fields = [
	...new Set(
		walk('src/lib')
			.concat(walk(root))
			.filter((f) => f.endsWith('.ts') || f.endsWith('.svelte'))
			.flatMap((f) => {
				const text = readFileSync(f, 'utf8');
				return [
					...text.matchAll(/\b(\w+): (?:z\.|\w+Schema\b)/g),
					...text.matchAll(/\bname="(\w+)"/g),
					...text.matchAll(/searchParams\.get\('(\w+)'\)/g)
				].map((m) => m[1]!);
			})
	)
];

describe('a crawl over everything', () => {
	let s: Stack;
	const r = draws(1903);
	/** Cookies of a session each; the first is nobody's. */
	const sessions: string[] = [''];
	let ids: number[];
	let token: string;

	before(async function () {
		s = await stack();
		for (const name of ['maren', 'ines', 'chidi']) {
			const page = await s.signedIn(name);
			const cookies = await page.context().cookies();
			sessions.push(cookies.map((c) => `${c.name}=${c.value}`).join('; '));
			await page.context().close();
		}
		// With them away, whatever is written is written by the web server.
		await s.stop('courier');
		await s.stop('readers');
		ids = (await s.db.all<{ id: number }>('SELECT id FROM dispatch ORDER BY id DESC LIMIT 30')).map(
			(d) => d.id
		);
		token = 'A'.repeat(22);
	});
	after(() => s.mend());

	const odd = (): unknown =>
		r.pick<() => unknown>([
			() => r.pick(ids),
			() => r.int(-2, 120),
			() => r.pick([0, -1, 1e15, 1e300, Number.MAX_SAFE_INTEGER, 0.5]),
			() =>
				r.pick([
					'',
					' ',
					'abc',
					'1',
					'-1',
					'1e9',
					'NaN',
					'\u0000',
					'\u202e',
					"' OR 1=1 --",
					'<b>',
					'%',
					'_',
					'../../etc',
					'null'
				]),
			() =>
				r.pick([
					'2027-03-09',
					'9999-12-31',
					'0001-01-01',
					'2027-02-30',
					'2027-03-09T09:00',
					'9999-12-31T23:59',
					'2027-03-09T25:61'
				]),
			() =>
				r.pick([
					'FREQ=DAILY',
					'FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30',
					'FREQ=SECONDLY',
					'every tuesday',
					'P99999999999999D'
				]),
			() =>
				r.pick([
					'email',
					'text',
					'inbox',
					'all',
					'sections',
					'guardians',
					'and',
					'but-not',
					'now',
					'at',
					'event',
					'round',
					'rule',
					'list',
					'events',
					'closures'
				]),
			() => r.pick([null, true, false, [], {}, [[]], [null]]),
			() => 'x'.repeat(r.int(0, 3_000)),
			() => '🚢'.repeat(r.int(1, 40))
		])();
	const object = (depth: number): unknown => {
		if (depth === 0 || r.int(0, 3) === 0) return odd();
		if (r.int(0, 3) === 0) return Array.from({ length: r.int(0, 3) }, () => object(depth - 1));
		return Object.fromEntries(
			Array.from({ length: r.int(1, 5) }, () => [r.pick(fields), object(depth - 1)])
		);
	};
	/** Something that makes sense, but for one to three places. */
	const nearly = (whole: unknown): unknown => {
		const copy = structuredClone(whole) as Record<string, unknown>;
		for (let n = r.int(1, 3); n > 0; n -= 1) {
			let at = copy;
			for (let depth = 0; depth < 6; depth += 1) {
				const names = Object.keys(at);
				if (names.length === 0) break;
				const name = r.pick(names);
				const inner = at[name];
				if (typeof inner === 'object' && inner !== null && r.int(0, 4) > 0) {
					at = inner as Record<string, unknown>;
					continue;
				}
				if (r.int(0, 5) === 0) delete at[name];
				else at[name] = odd();
				break;
			}
		}
		return copy;
	};
	const audience = () => sheetOf().audience;
	const bodies: readonly (() => unknown)[] = [
		() => sheetOf({ audience: audience() }),
		() => ({ sheet: sheetOf(), copiesSeen: 5 }),
		() => ({ sheet: sheetOf(), base: null }),
		() => ({ sheet: sheetOf(), personId: r.pick(ids), way: 'email' }),
		() => ({ sheet: sheetOf(), search: '' }),
		() => ({ sending: sheetOf(), door: 'people', filter: { page: 1 }, as: 'csv' }),
		() => ({ audience: audience(), text: 'Guardians of students in grade 7', before: audience() }),
		() => ({ name: 'Boats', form: 'rule', audience: audience() }),
		() => ({ name: 'Boats', wording: sheetOf().wording }),
		() => ({ texts: ['Hello'], from: 'en', to: 'es' }),
		() => ({ text: 'BEGIN:VCALENDAR\r\nEND:VCALENDAR', as: 'events', take: false }),
		() => ({ id: r.pick(ids), to: '2027-03-12T09:00', base: 0, date: '2027-03-09' }),
		() => ({ sheetKey: sheetOf().sheetKey })
	];
	const address = (path: string): string => {
		const filled = path.replace(/\[(\w+)\]/g, (_, name: string) =>
			name === 'token'
				? r.pick([token, 'x', 'A'.repeat(200), '%2e%2e'])
				: encodeURIComponent(
						String(r.pick<unknown>([r.pick(ids), r.int(0, 60), odd()])).slice(0, 300)
					) || '0'
		);
		const query = new URLSearchParams(
			Array.from({ length: r.int(0, 3) }, (): [string, string] => [r.pick(fields), String(odd())])
		).toString();
		return filled + (query ? `?${query}` : '');
	};
	const form = (): { body: string | FormData; type?: string } =>
		r.pick<() => { body: string | FormData; type?: string }>([
			() => ({
				body: new URLSearchParams(
					Array.from({ length: r.int(0, 6) }, (): [string, string] => [
						r.pick(fields),
						String(odd())
					])
				).toString(),
				type: 'application/x-www-form-urlencoded'
			}),
			() => {
				const data = new FormData();
				for (let n = r.int(0, 5); n > 0; n -= 1) data.append(r.pick(fields), String(odd()));
				if (r.int(0, 2) === 0) data.append(r.pick(fields), new Blob(['x']), 'x.txt');
				return { body: data };
			},
			() => ({ body: '--nothing like it', type: 'multipart/form-data; boundary=x' }),
			() => ({ body: JSON.stringify(object(2)), type: 'application/json' }),
			() => ({ body: '\u0000\u0001', type: 'text/plain' })
		])();
	const json = (): { body: string; type: string } => ({
		body: r.pick<() => string>([
			() => JSON.stringify(nearly(r.pick(bodies)())),
			() => JSON.stringify(nearly(r.pick(bodies)())),
			() => JSON.stringify(object(4)),
			() => '{"cut',
			() => ''
		])(),
		type: r.pick(['application/json', 'application/json', 'text/plain'])
	});

	const all = doors();
	// Leaves the sessions and the clock of this crawl as they are.
	const writing = all.filter(
		(d) => d.method !== 'GET' && d.path !== '/sign-out' && d.path !== '/bench/move'
	);
	const wrong: string[] = [];

	async function ask(door: Door): Promise<number> {
		const path = address(door.path);
		const url = `${s.url}${path}${door.action === null ? '' : `${path.includes('?') ? '&' : '?'}/${door.action}`}`;
		const headers: Record<string, string> = { cookie: r.pick(sessions), origin: s.url };
		if (r.int(0, 3) > 0) headers.accept = r.pick(['text/html', 'application/json', '*/*']);
		let body: string | FormData | undefined;
		if (door.method !== 'GET') {
			const sent = door.action === null && !/file|export|stop/.test(door.path) ? json() : form();
			({ body } = sent);
			if (sent.type) headers['content-type'] = sent.type;
		}
		const gone = new AbortController();
		const response = await fetch(url, {
			method: door.method,
			headers,
			redirect: 'manual',
			signal: gone.signal,
			...(body === undefined ? {} : { body })
		});
		const stream = response.headers.get('content-type')?.startsWith('text/event-stream');
		const text = stream ? '' : await response.text();
		if (stream) gone.abort();
		// An action that fails says so inside of a 200 where it is asked by our own pages.
		const inside = /"type":"(?:failure|error)","status":(\d+)/.exec(text)?.[1];
		const status = inside ? Number(inside) : response.status;
		if (status === 500 || /Something went wrong on our side/.test(text)) {
			wrong.push(
				`${status} ${door.method} ${decodeURI(url.slice(s.url.length)).slice(0, 200)} ${typeof body === 'string' ? body.slice(0, 1_500) : ''}`
			);
		}
		return status;
	}

	it(`knows no 500 when it is read, in ${requests.reading} requests`, async () => {
		const reading = all.filter((d) => d.method === 'GET');
		expect(reading.length).to.be.above(40);
		let n = 0;
		await Promise.all(
			Array.from({ length: 3 }, async () => {
				while (n < requests.reading) await ask(reading[(n += 1) % reading.length]!);
			})
		);
		expect(wrong.slice(0, 5)).to.deep.equal([]);
	}).timeout(600_000);

	it(`knows no 500 when it is written to, in ${requests.writing} requests, and what it refuses has changed nothing`, async () => {
		expect(writing.length).to.be.above(35);
		const changed: string[] = [];
		let refused = 0;
		for (let n = 0; n < requests.writing; n += 1) {
			const door = writing[n % writing.length]!;
			const before = await s.db.othersVersion();
			const status = await ask(door);
			if (status < 400) continue;
			refused += 1;
			if ((await s.db.othersVersion()) !== before) {
				changed.push(`${status} ${door.method} ${door.path} ${door.action ?? ''}`);
			}
		}
		expect(wrong.slice(0, 5)).to.deep.equal([]);
		expect([...new Set(changed)]).to.deep.equal([]);
		// Most of it is nonsense; where little of it is refused, the crawl is not one.
		expect(refused).to.be.above(requests.writing / 2);
	}).timeout(900_000);
});
