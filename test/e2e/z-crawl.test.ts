import { readFileSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import { draws } from '../unit/random';
import type { Audience, StudentSet } from '../../src/lib/core/audience/audience';
import type { When } from '../../src/lib/core/time/timing';
import { ownTokenOf } from '../named';
import type { Sheet } from '../../src/lib/server/desk/sheet/sheet';
import { sheetOf } from '../unit/server/database';
import { asEachRole } from './as-role';
import { stack, until, type Stack } from './stack';

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
	/** The cookie of a session of each role. */
	const sessions: string[] = [];
	/** Numbers that are there, by table. */
	let real: Readonly<
		Record<'section' | 'school' | 'school_group' | 'person' | 'dispatch' | 'address', number[]>
	>;
	let ids: number[];
	/** A private link that opens somebody's inbox. */
	let token: string;

	before(async function () {
		s = await stack();
		sessions.push(...(await asEachRole(s.db)).values());
		// With them away, whatever is written is written by the web server.
		await s.stop('courier');
		await s.stop('readers');
		const some = async (table: string) =>
			(await s.db.all<{ id: number }>(`SELECT id FROM ${table} ORDER BY id DESC LIMIT 40`)).map(
				(row) => row.id
			);
		real = {
			section: await some('section'),
			school: await some('school'),
			school_group: await some('school_group'),
			person: await some('person'),
			dispatch: [...(await some('dispatch')), 999_999],
			address: await some('address')
		};
		ids = real.dispatch;
		const link = await s.db.one<{ id: number }>(
			'SELECT id FROM family_link WHERE ends_at > 1 ORDER BY id LIMIT 1'
		);
		token = await ownTokenOf(s.db, await s.key(), link!.id);
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
	const set = (): StudentSet =>
		r.pick<() => StudentSet>([
			() => ({ kind: 'sections', ids: [r.pick(real.section)] }),
			() => ({ kind: 'schools', ids: [r.pick(real.school)] }),
			() => ({ kind: 'grades', levels: [String(r.int(6, 9))] }),
			() => ({ kind: 'groups', ids: [r.pick(real.school_group)] }),
			() => ({ kind: 'students', ids: [r.pick(real.person)] }),
			() => ({ kind: 'uncovered', ids: [r.pick(real.dispatch)] }),
			() => ({ kind: 'courses', ids: [r.int(1, 9)], termId: r.int(1, 3) }),
			() => ({ kind: 'except', from: set(), minus: set() }),
			() => ({ kind: r.pick(['any', 'all']), of: [set(), set()] })
		])();
	const audience = (): Audience => ({
		version: 2,
		lines: [
			{
				verb: 'and',
				to: [{ kind: r.pick(['guardians', 'students', 'all-guardians', 'section-staff']) }],
				of: set(),
				only: r.int(0, 3) === 0 ? [{ kind: 'language', tags: ['es'] }] : []
			},
			...(r.int(0, 3) === 0
				? [{ verb: 'but-not' as const, to: [{ kind: 'guardians' as const }], of: set(), only: [] }]
				: []),
			...(r.int(0, 4) === 0
				? [
						{
							verb: 'and' as const,
							people: { kind: 'named' as const, ids: [r.pick(real.person)] },
							only: []
						}
					]
				: [])
		],
		byHand: []
	});
	const turn = (): Sheet['turns'] => [
		{
			ways: [r.pick(['email', 'text', 'inbox'])],
			after: r.pick<Sheet['turns'][number]['after']>([
				{ kind: 'minutes', minutes: r.pick([5, 60, 20_160]) },
				{ kind: 'time', time: '17:00' }
			])
		}
	];
	const sheet = () =>
		sheetOf({
			audience: audience(),
			kind: r.pick(['message', 'announcement']),
			chases: r.int(0, 6) === 0 ? r.pick(real.dispatch) : null,
			cover: r.pick(['adult', 'households', 'student-too']),
			turns: r.pick<() => Sheet['turns']>([
				() => [],
				() => [],
				turn,
				() => [...turn(), ...turn()]
			])(),
			wanted: {
				days: r.int(0, 14),
				time: r.pick(['00:00', '07:00', '23:59']),
				share: r.pick([10, 90, 100])
			},
			timing: {
				when: r.pick<() => When>([
					() => ({ kind: 'now' }),
					() => ({
						kind: 'at',
						at: r.pick(['2027-03-12T14:15', '2027-03-14T02:30', '2199-12-31T23:59'])
					}),
					() => ({
						kind: 'event',
						eventId: r.int(1, 6),
						offsets: [{ amount: r.int(0, 40), unit: 'days', side: 'before', of: 'start' }]
					}),
					() => ({
						kind: 'round',
						first: '2027-03-16T10:00',
						rule: r.pick([
							'FREQ=WEEKLY;COUNT=3',
							'FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30',
							'nonsense',
							''
						]),
						offDays: r.pick(['send', 'skip', 'before', 'after'])
					})
				])(),
				ends: null,
				clock: null,
				urgent: r.int(0, 3) === 0
			}
		});
	/** What each place would be sent by our own pages. */
	const bodies: Readonly<Record<string, () => unknown>> = {
		'/write/tally': sheet,
		'/write/texts': sheet,
		'/write/good-time': sheet,
		'/write/expect/ask': sheet,
		'/write/feed': () => ({
			address: r.pick(['http://localhost:1/none', 'file:///etc/passwd', 'ftp://x.example', 'x'])
		}),
		'/write/proof/number': () => ({ number: r.pick(['', '+12075550142', '911', 'x']) }),
		'/write/names': () => ({
			...sheet(),
			door: r.pick(['people', 'email', 'informed', 'leftOut', 'merged'])
		}),
		'/write/manifest/lines': () => ({
			...sheet(),
			filter: { page: r.int(1, 3), search: '', way: r.pick(['', 'email']) }
		}),
		'/write/proof/copy': () => ({ sheet: sheet(), personId: r.pick(real.person) }),
		'/write/proof/readers': () => ({ sheet: sheet(), search: r.pick(['', 'a', '%']) }),
		'/write/proof/send': () => ({
			sheet: sheet(),
			personId: r.pick(real.person),
			way: r.pick(['email', 'text', 'inbox'])
		}),
		'/write/send': () => ({ sheet: sheet(), copiesSeen: r.int(0, 30) }),
		'/write/sentence': () => ({
			audience: audience(),
			text: r.pick([
				'Guardians of students in grade 7',
				'but not',
				'(((',
				'Guardians of students in all of (grade 7; grade 8)'
			])
		}),
		'/write/keep': () => ({
			name: `Kept ${r.int(0, 1e6)}`,
			form: r.pick(['rule', 'list']),
			audience: audience()
		}),
		'/write/draft': () => ({ sheet: sheet(), base: r.pick([null, 0, 5]) }),
		'/write/draft/throw-away': () => ({ sheetKey: sheet().sheetKey }),
		'/write/translate': () => ({
			words: sheet().wording.words,
			from: 'en',
			to: r.pick(['es', 'ar', 'xx'])
		}),
		'/write/wordings': () => ({ name: `Kept ${r.int(0, 1e6)}`, wording: sheet().wording }),
		'/week/effects': () => ({
			dispatchId: r.pick(real.dispatch),
			from: r.pick(['2027-03-08', '9999-12-31', '0001-01-01'])
		}),
		'/week/families': () => ({ date: r.pick(['2027-03-08', '9999-12-31', '0001-01-01']) }),
		'/week/move': () => ({
			dispatchId: r.pick(real.dispatch),
			to: r.pick(['2027-03-12T09:00', '2198-01-01T00:00']),
			base: r.int(0, 9)
		}),
		'/week/events/import': () => ({
			text: `BEGIN:VCALENDAR\r\nVERSION:2.0\r\nBEGIN:VEVENT\r\nUID:c${r.int(0, 99)}\r\nSUMMARY:Crawl\r\nDTSTART:2027031${r.int(0, 9)}T140000Z\r\nDURATION:${r.pick(['PT1H', 'P99999999999999D', '-PT1H'])}\r\nRRULE:${r.pick(['FREQ=WEEKLY;COUNT=2', 'FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30', 'FREQ=SECONDLY'])}\r\nEND:VEVENT\r\nEND:VCALENDAR`,
			as: r.pick(['events', 'closures']),
			take: r.int(0, 1) === 1
		}),
		'/replies/[id]': () => ({
			act: r.pick(['settle', 'wait-again', 'unread', 'aside', 'pass-on', 'take-back', 'move']),
			until: r.pick([0, 1.9e12, 8.64e15]),
			to: r.pick(real.person),
			from: r.pick(real.person),
			answer: r.int(1, 9),
			dispatch: r.pick(real.dispatch)
		}),
		'/replies/away': () => ({ from: 1.8e12, to: r.pick([1.8e12 + 1, 8.64e15]), words: 'Away.' }),
		'/replies/settle': () => ({ ids: [r.int(1, 9), r.pick(real.dispatch)] }),
		'/replies/translate': () =>
			r.pick<unknown>([{ answer: r.int(1, 9) }, { words: 'Sí', to: r.pick(['en', 'xx']) }]),
		'/people/rosters': () => ({
			source: 'Crawl',
			name: r.pick(['a.zip', '../../etc/passwd', 'x']),
			bytes: r.pick([0, 9, Number.MAX_SAFE_INTEGER])
		}),
		'/f/[token]/opened': () => ({ letter: r.pick(real.dispatch) }),
		'/f/[token]/played': () => ({ letter: r.pick(real.dispatch) }),
		'/f/[token]/boards/read': () => ({ post: r.pick(real.dispatch) })
	};
	/** Values that our own forms would send, by the names of their fields. */
	const likely: Readonly<Record<string, () => string>> = {
		id: () => String(r.pick([...real.dispatch, ...real.address, 1, 2, 3])),
		round: () => String(r.int(1, 4)),
		to: () => r.pick(['2027-03-12T09:00', '2199-01-01T00:00']),
		base: () => String(r.int(0, 3)),
		name: () => 'Crawl',
		title: () => 'Crawl',
		place: () => '',
		startsOn: () => r.pick(['2027-03-12', '9999-12-31', '2199-12-31']),
		lastOn: () => r.pick(['2027-03-12', '9999-12-31', '2200-12-31']),
		schoolId: () => String(r.pick([...real.school, 77])),
		schoolIds: () => String(r.pick([...real.school, 77])),
		sectionIds: () => '',
		startsLocal: () => r.pick(['2027-03-12T09:00', '2199-12-31T23:00']),
		endsLocal: () => r.pick(['2027-03-12T10:00', '2027-03-01T10:00']),
		allDay: () => r.pick(['0', '1']),
		value: () => r.pick(['', 'new@harbormail.example', '+12075550142', 'nothing']),
		fault: () => r.pick(['works', 'refuse', 'later']),
		address: () => 'home@harbormail.example',
		letter: () => String(r.pick(real.dispatch)),
		wanted: () => r.pick(['stop', 'again']),
		due: () => r.pick(['send', 'leave-out']),
		answer: () => String(r.int(1, 9)),
		as: () => r.pick(['csv', 'vcard', 'addresses']),
		sheet: () => JSON.stringify(r.int(0, 2) === 0 ? nearly(sheet()) : sheet()),
		householdId: () => r.pick(['', '1', '2', '1e15', '-1']),
		studentId: () => r.pick(['', ...real.person.slice(0, 3).map(String)]),
		words: () => r.pick(['', 'They will come on Friday.']),
		password: () => 'wrong'
	};
	const address = (path: string): string => {
		const filled = path.replace(/\[(\w+)\]/g, (_, name: string) =>
			name === 'token'
				? r.pick([token, token, 'x', 'A'.repeat(200), '%2e%2e'])
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
			...Array.from({ length: 6 }, () => () => ({
				body: new URLSearchParams(
					Object.entries(likely)
						.filter(() => r.int(0, 9) > 0)
						.map(([name, value]): [string, string] => [
							name,
							r.int(0, 12) === 0 ? String(odd()) : value()
						])
				).toString(),
				type: 'application/x-www-form-urlencoded'
			})),
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
	const json = (path: string): { body: string; type: string } => ({
		body: r.pick<() => string>([
			...Array.from({ length: 4 }, () => () => JSON.stringify((bodies[path] ?? odd)())),
			...Array.from(
				{ length: 4 },
				() => () => JSON.stringify(nearly((bodies[path] ?? (() => ({})))()))
			),
			() => JSON.stringify(object(4)),
			() => r.pick(['{"cut', ''])
		])(),
		type: 'application/json'
	});

	const all = doors();
	// Leaves the sessions and the clock of this crawl as they are.
	const writing = all.filter(
		(d) => d.method !== 'GET' && d.path !== '/sign-out' && d.path !== '/bench/move'
	);
	const wrong: string[] = [];

	async function ask(door: Door): Promise<number> {
		const path = address(door.path);
		const url = `${s.url}${path}${door.action === null || (door.action === 'default' && r.int(0, 3) > 0) ? '' : `${path.includes('?') ? '&' : '?'}/${door.action}`}`;
		const headers: Record<string, string> = {
			cookie: r.int(0, 12) === 0 ? '' : r.pick(sessions),
			origin: s.url
		};
		if (r.int(0, 3) > 0) headers.accept = r.pick(['text/html', 'application/json', '*/*']);
		let body: string | FormData | undefined;
		if (door.method !== 'GET') {
			const sent =
				door.action === null && !/file|export|stop/.test(door.path) ? json(door.path) : form();
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
		expect(reading.length).to.be.above(35);
		let n = 0;
		await Promise.all(
			Array.from({ length: 3 }, async () => {
				while (n < requests.reading) await ask(reading[(n += 1) % reading.length]!);
			})
		);
		expect(wrong.slice(0, 5)).to.deep.equal([]);
	}).timeout(600_000);

	/** Counts every row that anybody puts in, changes or takes out; but for what is written down of a refusal, and that a session is used. */
	async function watchTables() {
		const names = await s.db.all<{ name: string }>(
			`SELECT name FROM sqlite_master WHERE type = 'table' AND sql NOT LIKE 'CREATE VIRTUAL%' AND name NOT LIKE 'sqlite%'
				AND name NOT GLOB '*_words_*' AND name NOT IN ('log_line', 'session', 'seen_place', 'reading_model', 'habit', 'forecast', 'forecast_chance')`
		);
		expect(names.length).to.be.above(60);
		await s.db.run('CREATE TABLE crawl_touched (n INTEGER, last TEXT)');
		await s.db.run(`INSERT INTO crawl_touched VALUES (0, '')`);
		for (const { name } of names)
			for (const act of ['INSERT', 'UPDATE', 'DELETE'])
				await s.db.run(
					`CREATE TRIGGER crawl_${name}_${act} AFTER ${act} ON ${name} BEGIN UPDATE crawl_touched SET n = n + 1, last = '${act} ${name}'; END`
				);
	}
	const touched = async () =>
		(await s.db.one<{ n: number; last: string }>('SELECT n, last FROM crawl_touched'))!;

	/** Waits for what goes on after its answer: that is not what the next request has done. */
	const ended = () =>
		until('what was begun has ended', async () => {
			const figures = await fetch(`${s.url}/metrics`, {
				headers: { authorization: `Bearer ${s.env.IDLE_COURIER_WATCH_TOKEN}` }
			});
			return (await figures.text()).includes('\nidle_courier_web_work_in_background 0\n');
		});

	it(`knows no 500 when it is written to, in ${requests.writing} requests, and what it refuses has changed nothing`, async () => {
		expect(writing.length).to.be.above(35);
		await ended();
		await watchTables();
		const changed: string[] = [];
		let refused = 0;
		for (let n = 0; n < requests.writing; n += 1) {
			const door = writing[n % writing.length]!;
			const before = await touched();
			const status = await ask(door);
			const isRefused =
				status >= 400 &&
				// What a form did may take its own page away: then the page is not there, and the form was not refused.
				!(status === 404 && door.action !== null) &&
				// So does a link that its own form ends: it is gone.
				!(status === 410 && door.action === 'end');
			if (!isRefused) {
				await ended();
				continue;
			}
			refused += 1;
			const after = await touched();
			if (after.n !== before.n)
				changed.push(`${status} ${door.method} ${door.path} ${door.action ?? ''}: ${after.last}`);
		}
		expect(wrong.slice(0, 5)).to.deep.equal([]);
		expect([...new Set(changed)]).to.deep.equal([]);
		// Most of it is nonsense; where little of it is refused, the crawl is not one.
		expect(refused).to.be.above(requests.writing / 2);
	}).timeout(900_000);
});
