/**
 * A dispatch with 150,000 deliveries and one with a tenth of it, in a process of its own:
 * `reach.ts <file> <write|bare|reach>`. Prints one line of JSON.
 *
 *   write  plans the whole district's families by every way and writes the deliveries down, with
 *          their students, links and first evidence
 *   bare   the bare sqlite3 driver inserts the same rows of the same tables by prepared statements
 *   reach  the page of Reach: the first figures cold, a filtered page after it, and again after a
 *          piece of evidence has come in
 */
import { performance } from 'node:perf_hooks';
import sqlite3 from 'sqlite3';
import { migrate } from '../../src/lib/server/db/migrate';
import { openDatabase, type Db } from '../../src/lib/server/db/open';
import { dispatchReach } from '../../src/lib/server/desk/reach/reach';
import { record } from '../../src/lib/server/desk/track/record';
import { schedule } from '../../src/lib/server/desk/send/schedule';
import { landing } from '../../src/lib/server/desk/plan/tally';
import { usualCopies } from '../../src/lib/server/desk/sheet/sheet';
import { ownCopy } from './bench-copy';
import { benchSheet, openFor } from './bench-sheet';
import { leftAndRead } from './left-and-read';

// The built application has no source maps either; with them each error object costs its stack anew.
process.setSourceMapsEnabled(false);

const [file, side] = process.argv.slice(2) as [string, 'write' | 'bare' | 'reach'];
const copy = ownCopy(file);
const key = Buffer.alloc(32, 7);
const db = await openDatabase(copy);
await migrate(db);
const user = await openFor(db);
/** A copy for each child and each reader, to everybody there is, by every way: the most that the district comes to. */
const sheetFor = (schools: number) => {
	const sheet = benchSheet(
		Array.from({ length: schools }, (_, i) => i + 1),
		['email', 'text', 'inbox'],
		{ copies: { ...usualCopies, perStudent: true, perPerson: true } }
	);
	const to = ['all-guardians', 'students', 'emergency', 'other-contacts'] as const;
	return {
		...sheet,
		audience: {
			...sheet.audience,
			lines: sheet.audience.lines.map((line) => ({ ...line, to: to.map((kind) => ({ kind })) }))
		}
	};
};
/** Schools of the large dispatch and of the one that is a tenth of it. */
const [all, tenth] = [40, 4];

async function write(schools: number) {
	const sheet = sheetFor(schools);
	// Looked at first, as a screen does, with its ways in another order: the roster is read then, but
	// what is planned is not kept for what is measured.
	const looked = { ...sheet, ways: [...sheet.ways].reverse() };
	const { copies } = (await landing(db, user, looked)).tally;
	const start = performance.now();
	const sent = await schedule(db, key, user, { ...sheet, sheetKey: crypto.randomUUID() }, copies);
	if (!sent.ok) throw new Error(sent.checks[0]!.text);
	return { id: sent.dispatchId, copies, ms: performance.now() - start };
}

const everything = { way: 'all', state: 'all', section: 0, search: '', page: 1 } as const;

async function reach(at: Db, id: number) {
	const time = async (filter: object) => {
		const start = performance.now();
		const seen = await dispatchReach(at, user, id, { ...everything, ...filter });
		return { ms: performance.now() - start, seen: seen! };
	};
	const first = await time({});
	const filtered = await time({ state: 'not-covered', page: 3 });
	const one = (await at.one<{ id: number }>(
		`SELECT id FROM delivery WHERE dispatch_id = $id AND state = 'delivered' LIMIT 1`,
		{ id }
	))!;
	await at.write((tx) =>
		record(tx, [
			{ deliveryId: one.id, at: Date.now(), kind: 'opened', source: 'inbox', detail: 'opened' }
		])
	);
	const again = await time({});
	return {
		first: first.ms,
		filtered: filtered.ms,
		again: again.ms,
		copies: first.seen.copies.found
	};
}

const rss = () => process.memoryUsage().rss / 1e6;
let result: object;
if (side === 'reach') {
	const small = await write(tenth);
	await leftAndRead(db, small.id);
	const large = await write(all);
	await leftAndRead(db, large.id);
	// Another process looks at it: nothing is kept from the writing.
	const fresh = await openDatabase(copy);
	result = { small: await reach(fresh, small.id), large: await reach(fresh, large.id) };
	await fresh.close();
} else {
	const written = await write(all);
	if (side === 'write') result = { ...written, megabytes: rss() };
	else {
		// The rows as they were written, then the same once more into empty tables.
		const tables = {
			dispatch_student: ['dispatch_id', 'student_id', 'section_id'],
			left_out: ['id', 'dispatch_id', 'person_id', 'reasons'],
			left_out_student: ['left_out_id', 'student_id'],
			delivery: [
				'id',
				'dispatch_id',
				'person_id',
				'way',
				'address',
				'state',
				'state_at',
				'due_at',
				'link_hash',
				'step'
			],
			delivery_student: ['delivery_id', 'student_id'],
			delivery_also: ['delivery_id', 'person_id'],
			event: ['delivery_id', 'at', 'kind', 'source', 'detail']
		} as const;
		const rows: [string, unknown[][]][] = [];
		for (const [table, columns] of Object.entries(tables)) {
			const list = await db.all<Record<string, unknown>>(
				`SELECT ${columns.join(', ')} FROM ${table}`
			);
			rows.push([table, list.map((r) => columns.map((c) => r[c]))]);
		}
		for (const table of Object.keys(tables).reverse()) await db.run(`DELETE FROM ${table}`);
		await db.close();
		const bare = new sqlite3.Database(copy);
		const run = (sql: string) =>
			new Promise<void>((r, no) => bare.run(sql, (e) => (e ? no(e) : r())));
		await run('PRAGMA journal_mode = WAL');
		await run('PRAGMA synchronous = FULL');
		const start = performance.now();
		await run('BEGIN');
		for (const [table, list] of rows) {
			const columns = tables[table as keyof typeof tables];
			const insert = bare.prepare(
				`INSERT INTO ${table} (${columns.join(', ')}) VALUES (${columns.map(() => '?').join(', ')})`
			);
			for (let i = 0; i < list.length; i += 2_000) {
				await Promise.all(
					list
						.slice(i, i + 2_000)
						.map(
							(values) =>
								new Promise<void>((r, no) =>
									insert.run(values, (e: Error | null) => (e ? no(e) : r()))
								)
						)
				);
			}
			insert.finalize();
		}
		await run('COMMIT');
		result = {
			ms: performance.now() - start,
			copies: written.copies,
			rows: rows.reduce((sum, [, l]) => sum + l.length, 0)
		};
	}
}
process.stdout.write(`${JSON.stringify(result)}\n`);
process.exit(0);
