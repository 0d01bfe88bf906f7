/**
 * What is to be expected in the large district, in a process of its own: `forecast.ts <file>`. Twenty dispatches to everybody
 * are put there as the courier would have left them. Prints one line of JSON: what learning takes, the forecast of a sheet to
 * all beside the planning of its manifest, and a tally after a pick with and without its line.
 */
import { performance } from 'node:perf_hooks';
import { audienceOf } from '../../src/lib/core/audience/audience';
import { forecast } from '../../src/lib/core/track/expect/forecast';
import { setClock, now } from '../../src/lib/server/clock';
import { migrate } from '../../src/lib/server/db/migrate';
import { openDatabase } from '../../src/lib/server/db/open';
import { expecting } from '../../src/lib/server/desk/expect/expecting';
import { keepForecasts } from '../../src/lib/server/desk/expect/keep-forecasts';
import { learnReading } from '../../src/lib/server/desk/expect/learn';
import { learnedLast } from '../../src/lib/server/desk/expect/model';
import { planSheet } from '../../src/lib/server/desk/plan/plan-sheet';
import { landing } from '../../src/lib/server/desk/plan/tally';
import { whatToExpect } from '../../src/lib/server/desk/plan/what-to-expect';
import { schedule } from '../../src/lib/server/desk/send/schedule';
import { ownCopy } from './bench-copy';
import { putPast } from './bench-past';
import { benchSheet, openFor } from './bench-sheet';

process.setSourceMapsEnabled(false);

const [file] = process.argv.slice(2) as [string];
const day = 86_400_000;
const site = { publicUrl: 'https://x.example', waysOut: ['email', 'text'] } as const;
const db = await openDatabase(ownCopy(file));
await migrate(db);
const user = await openFor(db);
const schools = (await db.all<{ id: number }>('SELECT id FROM school')).map((s) => s.id);
const ways = ['email', 'text', 'inbox'] as const;
await setClock(db, Date.parse('2027-03-09T15:00:00Z'));
const time = await now(db);

await putPast(db, user, 20, time);
const { copies } = (await db.one<{ copies: number }>('SELECT count(*) AS copies FROM delivery'))!;

async function timed<T>(work: () => Promise<T>): Promise<[ms: number, result: T]> {
	const start = performance.now();
	const result = await work();
	return [performance.now() - start, result];
}
const median = (took: readonly number[]) => [...took].sort((a, b) => a - b)[took.length >> 1]!;
const late = (took: readonly number[]) =>
	[...took].sort((a, b) => a - b)[Math.ceil(took.length * 0.95) - 1]!;

// As the other planner does, which has the roster in memory.
const all = () => benchSheet(schools, ways);
await planSheet(db, user, all());
const sections = (
	await db.all<{ id: number }>('SELECT id FROM section WHERE term_id = 2 ORDER BY id LIMIT 40')
).map((s) => s.id);
/** A tally after each of forty picks, each beside those before it. */
async function picks(): Promise<number[]> {
	const took: number[] = [];
	for (let n = 1; n <= sections.length; n += 1) {
		const sheet = { ...all(), audience: audienceOf(sections.slice(0, n)) };
		took.push((await timed(() => landing(db, user, sheet)))[0]);
	}
	return took;
}
const plain = late(await picks());
const [learnMs] = await timed(() => learnReading(db));
const learned = (await learnedLast(db))!;
await picks();
const withLine = late(await picks());

const plan: number[] = [];
const said: number[] = [];
for (let i = 0; i < 5; i += 1) {
	// Another way chosen by hand each time, so that none is kept from before.
	const sheet = { ...all(), copies: { ...all().copies, toColleagues: [user.personId + i] } };
	const [ms, planned] = await timed(() => planSheet(db, user, sheet));
	plan.push(ms);
	const { manifest, roster, times, moment } = planned;
	const [ahead] = await timed(async () => {
		const ready = await expecting(db, { manifest, roster, clocks: times.clocks }, 'adult');
		if ('unknown' in ready) throw new Error('too little is known');
		forecast(ready.model, ready.families, { by: moment.at + day, bonds: ready.bonds });
	});
	said.push(ahead);
}
const sheet = all();
const { tally } = await landing(db, user, sheet);
const [compareMs] = await timed(() => whatToExpect(db, site, user, sheet));
const sent = await schedule(db, Buffer.alloc(32, 7), user, sheet, tally.copies);
if (!sent.ok) throw new Error(sent.checks.map((c) => c.text).join(' '));
const [keepMs] = await timed(() => keepForecasts(db));
process.stdout.write(
	`${JSON.stringify({
		...{ copies, people: learned.people, learnMs, planMs: median(plan), saidMs: median(said) },
		...{ sheetCopies: tally.copies, plain, withLine, compareMs, keepMs }
	})}\n`
);
