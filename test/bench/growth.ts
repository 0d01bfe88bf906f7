/**
 * One size of district, in a process of its own: `growth.ts <times>`. Makes the large district so many times over with a
 * dispatch to everybody in it, and measures each stage of a dispatch and each page, by the web server as it is built.
 * Prints one line of JSON: milliseconds by what was measured.
 */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import { makeDistrict } from '../../demo/district';
import { putRows } from '../../demo/put-rows';
import { byWays } from '../../src/lib/core/plan/handling';
import { planManifest } from '../../src/lib/core/plan/plan-manifest';
import { linkKey } from '../../src/lib/server/access/link-key';
import { migrate } from '../../src/lib/server/db/migrate';
import { openDatabase } from '../../src/lib/server/db/open';
import { readRoster, rosterChanged } from '../../src/lib/server/db/roster';
import { landing } from '../../src/lib/server/desk/plan/tally';
import { schedule } from '../../src/lib/server/desk/send/schedule';
import { countOf } from '../e2e/stack';
import { ownFolder } from './bench-copy';
import { benchSheet, cookieOf, openFor } from './bench-sheet';
import { grown } from './grown';
import { leftAndRead } from './left-and-read';
import { webAlone } from './web-alone';

const times = Number(process.argv[2]);
const size = grown(times);
const folder = ownFolder();
const db = await openDatabase(join(folder, 'courier.sqlite'), { durable: false });
await migrate(db);
await db.write(async (tx) => {
	await putRows(tx, makeDistrict(2027, size).rows);
	await rosterChanged(tx);
});
await db.run('ANALYZE');
const user = await openFor(db);
const key = await linkKey(folder, db);
const found: Record<string, number> = {};
const timed = async <T>(what: string, work: () => T | Promise<T>): Promise<T> => {
	const start = performance.now();
	const result = await work();
	found[what] = performance.now() - start;
	return result;
};

const schools = size.schools.map((s) => s.id);
const sheetTo = (ids: readonly number[]) => benchSheet(ids, ['email', 'text', 'inbox']);
const sheet = sheetTo(schools);
const roster = await timed('the roster read', () => readRoster(db));
const plan = () => planManifest(roster, sheet.audience, byWays(['email', 'text', 'inbox']));
plan();
await timed('the whole district planned', plan);
const { tally } = await landing(db, user, sheet);
const sent = await timed('planned and written', () => schedule(db, key, user, sheet, tally.copies));
if (!sent.ok) throw new Error(sent.checks[0]!.text);
await leftAndRead(db, sent.dispatchId);
const student = (await db.one<{ id: number }>(
	`SELECT min(id) AS id FROM person WHERE kind = 'student'`
))!.id;
const section = (await db.one<{ id: number }>('SELECT min(id) AS id FROM section'))!.id;
const cookie = await cookieOf(db, user.personId);

const web = await webAlone(folder);
found['the web server answers'] = web.startMs;
const asked = async (path: string, body?: object) => {
	const response = await fetch(`${web.url}${path}`, {
		method: body ? 'POST' : 'GET',
		headers: {
			...{ cookie, origin: web.url },
			...(body ? { accept: 'application/json', 'content-type': 'application/json' } : {})
		},
		body: body && JSON.stringify(body),
		redirect: 'error'
	});
	const text = await response.text();
	if (!response.ok) throw new Error(`${path} ${response.status} ${text.slice(0, 200)}`);
};
const reach = `/reach/${sent.dispatchId}`;
/** What is asked for, and with it a sheet, each time another one. */
const pages: readonly (readonly [string, string, ((i: number) => object)?])[] = [
	['Week', '/week'],
	['List', '/week/list'],
	['Write', '/write'],
	['a tally of a school', '/write/tally', (i) => sheetTo([2 + i])],
	['a tally of every school', '/write/tally', (i) => sheetTo(schools.slice(i))],
	['Reach', '/reach'],
	['the dispatch in Reach', reach],
	['… filtered', `${reach}?state=failed&page=3`],
	['its account', `${reach}/account`],
	['the report of the term', '/reach/term'],
	['People', '/people'],
	['somebody looked up', '/people/find?q=sil'],
	['a student', `/people/${student}`],
	['Sections', '/people/sections'],
	['a section', `/people/sections/${section}`],
	['Groups', '/people/groups'],
	['Addresses to mend', '/people/mend'],
	['families that nothing reaches', '/people/silent?days=90'],
	['Replies', '/replies'],
	['Courier', '/courier'],
	['People who work here', '/settings/work'],
	['What was done', '/settings/log']
];
for (const [what, path, body] of pages) {
	await timed(`${what}, first`, () => asked(path, body?.(6)));
	const some: number[] = [];
	for (let i = 0; i < 5; i += 1) {
		const start = performance.now();
		await asked(path, body?.(i));
		some.push(performance.now() - start);
	}
	found[what] = some.sort((a, b) => a - b)[2]!;
}
const peak = /VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${web.pid}/status`, 'utf8'))![1]!;
const students = await countOf(db, `person WHERE kind = 'student'`);
await web.stop();
await db.close();
process.stdout.write(
	`${JSON.stringify({ students, copies: tally.copies, megabytes: Number(peak) / 1024, found })}\n`
);
process.exit(0);
