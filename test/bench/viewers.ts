/**
 * What it costs the web server that so many look at one dispatch of the large district while it is being read, in a process of its
 * own: `viewers.ts <file> <viewers>`. Prints one line of JSON: milliseconds of processor of the server and its threads.
 */
import { readFileSync, readdirSync } from 'node:fs';
import { dirname } from 'node:path';
import { openAccount } from '../../src/lib/server/access/accounts';
import { linkKey } from '../../src/lib/server/access/link-key';
import { migrate } from '../../src/lib/server/db/migrate';
import { newestEvent } from '../../src/lib/server/db/newest-event';
import { openDatabase } from '../../src/lib/server/db/open';
import { landing } from '../../src/lib/server/desk/plan/tally';
import { schedule } from '../../src/lib/server/desk/send/schedule';
import { record } from '../../src/lib/server/desk/track/record';
import { ownCopy } from './bench-copy';
import { benchSheet, cookieOf, openFor } from './bench-sheet';
import { leftAndRead } from './left-and-read';
import { webAlone } from './web-alone';

const [file, viewersText] = process.argv.slice(2) as [string, string];
const viewers = Number(viewersText);
const copy = ownCopy(file);
const folder = dirname(copy);
const db = await openDatabase(copy, { durable: false });
await migrate(db);
const user = await openFor(db);
const sheet = benchSheet(
	Array.from({ length: 40 }, (_, i) => i + 1),
	['email', 'text', 'inbox']
);
const { tally } = await landing(db, user, sheet);
const sent = await schedule(db, await linkKey(folder, db), user, sheet, tally.copies);
if (!sent.ok) throw new Error(sent.checks[0]!.text);
await leftAndRead(db, sent.dispatchId);
/** Each viewer is somebody else, who works in the district office and has come in from a place of their own. */
const people = await db.all<{ id: number }>(
	`SELECT DISTINCT person_id AS id FROM staff WHERE person_id != $first ORDER BY 1 LIMIT $viewers`,
	{ first: user.personId, viewers }
);
if (people.length < viewers) throw new Error(`only ${people.length} work here`);
await db.write(async (tx) => {
	for (const { id } of people)
		await openAccount(tx, {
			...{ personId: id, title: 'Office', userName: `viewer${id}`, passwordHash: 'x' },
			...{ role: 'office', schoolId: null, sectionId: null }
		});
});
const cookies: string[] = [];
for (const { id } of people) cookies.push(await cookieOf(db, id));
const headers = { cookie: await cookieOf(db, user.personId) };
const web = await webAlone(folder);

/** A process, its threads, and those that it has started (proc(5)), in ms of processor. */
function spentBy(pid: number): number {
	const fields = readFileSync(`/proc/${pid}/stat`, 'utf8')
		.replace(/^.*\)\s/s, '')
		.split(' ');
	const own = (Number(fields[11]) + Number(fields[12])) * 10;
	const children = readdirSync(`/proc/${pid}/task`).flatMap((task) =>
		readFileSync(`/proc/${pid}/task/${task}/children`, 'utf8').split(' ').filter(Boolean)
	);
	return children.reduce((sum, child) => sum + spentBy(Number(child)), own);
}

/** The page as it is first seen; then one line for each viewer, which hears of what is new. */
const page = await fetch(`${web.url}/reach/${sent.dispatchId}`, { headers });
if (!page.ok) throw new Error(`the page: ${page.status}`);
await page.text();
const since = await newestEvent(db);
const last = new Array<number>(viewers).fill(0);
const leaving = new AbortController();
let told = 0;
const open = Array.from({ length: viewers }, async (_, i) => {
	const line = await fetch(`${web.url}/reach/${sent.dispatchId}/live?since=${since}`, {
		headers: { cookie: cookies[i]! },
		signal: leaving.signal
	});
	void (async () => {
		let text = '';
		const reader = line.body!.pipeThrough(new TextDecoderStream()).getReader();
		for (;;) {
			const { value, done } = await reader.read();
			if (done) return;
			text = (text + value).slice(-2_000);
			told += value.split('event: change').length - 1;
			// The number stands behind the words, however long they are.
			for (const [, event] of text.matchAll(/^id: (\d+)$/gm)) last[i] = Number(event);
		}
	})().catch(() => {});
});
await Promise.all(open);

const copies = await db.all<{ id: number }>(
	`SELECT id FROM delivery WHERE dispatch_id = $id AND state = 'delivered' ORDER BY id LIMIT 600`,
	{ id: sent.dispatchId }
);
const before = spentBy(web.pid);
const began = Date.now();
// A hundred groups over ten seconds, as a letter is read in its first minutes.
for (let i = 0; i < 100; i += 1) {
	await db.write((tx) =>
		record(
			tx,
			copies.slice(i * 6, i * 6 + 6).map(({ id }) => ({
				...{ deliveryId: id, at: Date.now(), kind: 'opened', source: 'inbox', detail: 'opened' }
			}))
		)
	);
	await new Promise((go) => setTimeout(go, Math.max(0, began + (i + 1) * 100 - Date.now())));
}
const newest = await newestEvent(db);
while (last.some((event) => event < newest)) await new Promise((go) => setTimeout(go, 50));
const ms = spentBy(web.pid) - before;
const over = Date.now() - began;
leaving.abort();
await web.stop();
await db.close();
process.stdout.write(`${JSON.stringify({ viewers, ms, over, told, copies: tally.copies })}\n`);
process.exit(0);
