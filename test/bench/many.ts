/**
 * A hundred people at their work on the large district while a dispatch to all leaves and receipts come in:
 * `many.ts`. Everything runs as in the demo, each in its own process. Prints one line of JSON.
 *
 * Each of them does something, thinks for five to fifteen seconds, and does the next thing: looks how a sheet lands
 * (two in five), saves their draft, looks up a person, or at Reach, with and without a filter. What the courier hands over
 * meanwhile is held against what it hands over of the same kind with nobody there.
 */
import { execSync } from 'node:child_process';
import { performance } from 'node:perf_hooks';
import { audienceOf } from '../../src/lib/core/audience/audience';
import { openAccount } from '../../src/lib/server/access/accounts';
import { userById, type User } from '../../src/lib/server/access/user';
import { longHoldMs, longHolds } from '../../src/lib/server/db/long-holds';
import type { Db } from '../../src/lib/server/db/open';
import { landing } from '../../src/lib/server/desk/plan/tally';
import { schedule } from '../../src/lib/server/desk/send/schedule';
import type { Sheet } from '../../src/lib/server/desk/sheet/sheet';
import { draws } from '../unit/random';
import { benchSheet, cookieOf, openFor } from './bench-sheet';

process.env.DEMO_SIZE = 'district';
const { countOf, stack, until } = await import('../e2e/stack');
const began = performance.now();
const say = (line: string) =>
	process.stderr.write(`${((performance.now() - began) / 1000).toFixed(0)} s ${line}\n`);
const s = await stack();
// What is other people's machines, theirs and their providers', stands behind on this one.
execSync(
	`renice -n 10 -p ${process.pid} $(pgrep -f build/processes/mailhouse.js) $(pgrep -f build/processes/exchange.js)`,
	{ stdio: 'ignore' }
);
const { db } = s;
const r = draws(31);
const key = await s.key();
const maren = await openFor(db);

/** Somebody at work, with the sections that they pick from. */
interface Worker {
	readonly user: User;
	readonly cookie: string;
	readonly sections: readonly number[];
	/** Their draft, and as which version it was saved last. */
	sheet: Sheet;
	base: number | null;
}

/** Of each school some offices and principals, and a tenth who speak for the district. */
async function makeWorkers(n: number): Promise<Worker[]> {
	const staff = await db.all<{ id: number; schoolId: number }>(
		`SELECT person_id AS id, school_id AS schoolId FROM staff WHERE school_id IS NOT NULL
			AND person_id NOT IN (SELECT person_id FROM sign_in) ORDER BY person_id LIMIT $n`,
		{ n }
	);
	const workers: Worker[] = [];
	for (const [i, { id, schoolId }] of staff.entries()) {
		const district = i % 10 === 0;
		const account = {
			...{ personId: id, userName: `bench-${i}`, passwordHash: 'x', title: 'Bench' },
			role: district ? 'coordinator' : i % 2 ? 'office' : 'principal',
			schoolId: district ? null : schoolId
		} as const;
		await db.write((tx) => openAccount(tx, account));
		const sections = await db.all<{ id: number }>(
			`SELECT section.id FROM section JOIN course ON course.id = course_id WHERE school_id = $schoolId AND term_id = 2`,
			{ schoolId }
		);
		workers.push({
			user: (await userById(db, id))!,
			cookie: await cookieOf(db, id),
			sections: sections.map((row) => row.id),
			sheet: benchSheet([schoolId], ['email']),
			base: null
		});
	}
	return workers;
}

const took: Record<string, number[]> = {};
const refused: string[] = [];

async function asked(what: string, worker: Worker, path: string, body?: unknown): Promise<unknown> {
	const start = performance.now();
	const response = await fetch(`${s.url}${path}`, {
		method: body === undefined ? 'GET' : 'POST',
		headers: {
			cookie: worker.cookie,
			origin: s.url,
			accept: 'application/json',
			'content-type': 'application/json'
		},
		...(body === undefined ? {} : { body: JSON.stringify(body) })
	});
	const text = await response.text();
	(took[what] ??= []).push(performance.now() - start);
	if (!response.ok) refused.push(`${what} ${response.status} ${text.slice(0, 200)}`);
	return response.ok ? JSON.parse(text) : null;
}

/** Picks a few sections, as one does who writes. */
function picks(worker: Worker): Sheet {
	const ids = Array.from({ length: r.int(1, 6) }, () => r.pick(worker.sections));
	return {
		...worker.sheet,
		audience: audienceOf(ids, ['guardians']),
		ways: ['email', 'text', 'inbox']
	};
}

const acts: readonly (readonly [
	share: number,
	act: (w: Worker, dispatch: number) => Promise<unknown>
])[] = [
	[
		40,
		(w) => {
			w.sheet = picks(w);
			return asked('tally', w, '/write/tally', w.sheet);
		}
	],
	[
		15,
		async (w) => {
			const saved = await asked('draft', w, '/write/draft', { sheet: w.sheet, base: w.base });
			w.base = (saved as { savedAt?: number } | null)?.savedAt ?? w.base;
		}
	],
	[
		15,
		(w) => asked('person', w, `/people/find?q=${r.pick(['sil', 'tran', 'ama', 'oka', 'ferr'])}`)
	],
	[15, (w, id) => asked('Reach', w, `/reach/${id}/__data.json`)],
	[
		15,
		(w, id) =>
			asked(
				'Reach, filtered',
				w,
				`/reach/${id}/__data.json?state=${r.pick(['read', 'sent', 'delivered', 'failed'])}&page=${r.int(1, 3)}`
			)
	]
];

/** The dispatch that is looked at in Reach; and whether all go home. */
let looked = 0;
let over = false;

/** One person at work until it is over. */
async function works(worker: Worker): Promise<void> {
	// They do not all begin at the same moment.
	await new Promise((go) => setTimeout(go, r.int(0, 15_000)));
	while (!over) {
		let at = r.int(0, 99);
		for (const [share, act] of acts) {
			if ((at -= share) >= 0) continue;
			await act(worker, looked);
			break;
		}
		await new Promise((go) => setTimeout(go, 5_000 + r.int(0, 10_000)));
	}
}

/** What was refused has no time at which it left. */
const gone = `state NOT IN ('held', 'planned')`;
const handedOver = (of: Db, id: number) =>
	countOf(of, `delivery WHERE dispatch_id = ${id} AND way != 'inbox' AND ${gone}`);

/** Sends to some schools and measures how fast it leaves, from the first copy on. */
async function sent(schoolIds: readonly number[]) {
	const sheet = benchSheet(schoolIds, ['email', 'text', 'inbox']);
	// While what comes back marks addresses, a copy more or less lands from one moment to the next.
	let scheduled: Awaited<ReturnType<typeof schedule>>;
	do {
		const { tally } = await landing(db, maren, sheet);
		scheduled = await schedule(db, key, maren, sheet, tally.copies);
	} while (!scheduled.ok);
	const { dispatchId } = scheduled;
	const out = await countOf(db, `delivery WHERE dispatch_id = ${dispatchId} AND way != 'inbox'`);
	await until('the first copies have left', async () => (await handedOver(db, dispatchId)) > 0);
	const [start, first] = [performance.now(), await handedOver(db, dispatchId)];
	looked = dispatchId;
	const since = Date.now();
	refused.length = 0;
	for (const what of Object.keys(took)) delete took[what];
	await until('all have left', async () => (await handedOver(db, dispatchId)) === out, 900_000);
	const ms = performance.now() - start;
	return { rate: (1_000 * (out - first)) / ms, copies: out, ms, since, until: Date.now() };
}

const schools = (await db.all<{ id: number }>('SELECT id FROM school ORDER BY id')).map(
	(x) => x.id
);
const workers = await makeWorkers(100);

const part = (n: number) => schools.slice(2).filter((_, i) => i % 4 === n);
// The courier has begun when it counts.
await sent(schools.slice(0, 2));
const alone = await sent(part(0));
say(`alone ${alone.rate.toFixed(0)} a second`);
// They have been at work for a while when a dispatch begins to leave.
const all = Promise.all(workers.map(works));
await new Promise((go) => setTimeout(go, 45_000));
const beside = await sent([...part(1), ...part(2)]);
const times = Object.entries(took).map(([what, some]) => [what, [...some]] as const);
over = true;
await all;
const holds = (await longHolds(db.file, beside.since)).holds.filter(
	(hold) => hold.at <= beside.until && hold.by !== 'another process'
);
const percentile = (times: readonly number[], p: number) =>
	[...times].sort((a, b) => a - b)[Math.max(0, Math.ceil(times.length * p) - 1)] ?? 0;
const every = times.flatMap(([, some]) => some);
process.stdout.write(
	`${JSON.stringify({
		...{ people: workers.length, requests: every.length, refused: refused.length },
		why: refused.slice(0, 5),
		...{ p50: percentile(every, 0.5), p95: percentile(every, 0.95) },
		each: Object.fromEntries(times.map(([what, some]) => [what, percentile(some, 0.95)])),
		...{ alone: alone.rate, beside: beside.rate, copies: beside.copies, ms: beside.ms },
		// Shorter ones are not written down.
		locked: Math.max(longHoldMs, ...holds.map((h) => h.ms)),
		holds: holds.length,
		by: [...new Set(holds.map((h) => h.by))]
	})}\n`
);
await s.close();
process.exit(0);
