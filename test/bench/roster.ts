/**
 * A district's roster, in a process of its own. Prints one line of JSON.
 *
 *   make <database> <folder>   writes what the database holds as loose OneRoster 1.2 tables
 *   csv <folder>               csv-parse alone reads those tables
 *   look <folder>              the same tables looked at, in an empty district
 *   take <folder>              looked at and taken in; says where, and how many rows of each table there are then
 *   bare <database>            the rows of that database put into an empty one by prepared statements, one by one
 */
import { createReadStream, createWriteStream, mkdirSync, mkdtempSync, readdirSync } from 'node:fs';
import { copyFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import { pipeline } from 'node:stream/promises';
import { parse } from 'csv-parse';
import sqlite3 from 'sqlite3';
import { writeSetting } from '../../src/lib/server/db/district';
import { migrate } from '../../src/lib/server/db/migrate';
import { openDatabase, type Db } from '../../src/lib/server/db/open';
import { heldTables } from '../../src/lib/server/desk/roster/export';
import { addFile, changeFile } from '../../src/lib/server/desk/roster/files';
import { lookAt } from '../../src/lib/server/desk/roster/look';
import { tablesFolder } from '../../src/lib/server/desk/roster/look-file';
import { columnsOfTable, tablesInOrder } from '../../src/lib/server/desk/roster/row-tables';
import { sourceNamed } from '../../src/lib/server/desk/roster/sources';
import { takeIn } from '../../src/lib/server/desk/roster/take-in';
import { testDistrict } from '../unit/server/database';
import { csvStream } from '../../src/lib/server/desk/roster/write-zip';

const [, , what, first = '', second = ''] = process.argv;
const key = Buffer.alloc(32, 7);

async function emptyDistrict(): Promise<{ db: Db; folder: string; file: string }> {
	const folder = mkdtempSync(join(tmpdir(), 'idle-courier-bench-'));
	const file = join(folder, 'courier.sqlite');
	const db = await openDatabase(file);
	await migrate(db);
	await writeSetting(db, 'district', testDistrict);
	return { db, folder, file };
}

async function make(): Promise<object> {
	const db = await openDatabase(first);
	await writeSetting(db, 'district', testDistrict);
	mkdirSync(second, { recursive: true });
	// Keys of another system: ours would be known again by their signatures.
	function* foreign(rows: Iterable<readonly string[]>) {
		for (const row of rows) yield row.map((cell) => cell.replaceAll('ic-', 'hr-'));
	}
	for (const { name, rows } of await heldTables(db, key))
		await pipeline(csvStream(foreign(rows)), createWriteStream(join(second, name)));
	await db.close();
	return {};
}

async function csv(): Promise<object> {
	const start = performance.now();
	let lines = 0;
	for (const name of readdirSync(first))
		for await (const row of createReadStream(join(first, name)).pipe(parse()) as AsyncIterable<
			string[]
		>)
			lines += row.length > 0 ? 1 : 0;
	return { ms: performance.now() - start, lines };
}

async function lookOrTake(): Promise<object> {
	const { db, folder, file } = await emptyDistrict();
	const { id: sourceId } = await sourceNamed(db, 'Harbor Records');
	const id = await addFile(db, folder, sourceId, 'roster', null);
	for (const name of readdirSync(first))
		await copyFile(join(first, name), join(tablesFolder(folder, id), name));
	const house = { db, dataFolder: folder, key };
	await changeFile(db, id, { state: 'looking' });
	const start = performance.now();
	await lookAt(
		house,
		id,
		() => {},
		() => Promise.resolve('taking')
	);
	const looked = performance.now();
	if (what === 'take') {
		const taken = await takeIn(house, id, { user: null, typed: null }, () => {});
		if (!taken.ok) throw new Error(taken.why);
	}
	const end = performance.now();
	await db.close();
	return {
		lookMs: looked - start,
		takeMs: end - looked,
		megabytes: process.resourceUsage().maxRSS / 1024,
		file
	};
}

/** The driver's own prepared statements, each row a call. */
async function bare(): Promise<object> {
	const from = await openDatabase(first);
	const { db, file } = await emptyDistrict();
	await db.run(
		`INSERT INTO roster_source (id, name, kind, made_at) VALUES (1, 'x', 'oneroster', 0)`
	);
	await db.close();
	const raw = new sqlite3.Database(file);
	const run = (sql: string) =>
		new Promise<void>((resolve, reject) =>
			raw.run(sql, (error) => (error ? reject(error) : resolve()))
		);
	await run('PRAGMA journal_mode = WAL');
	await run('PRAGMA synchronous = FULL');
	let rows = 0;
	let ms = 0;
	await run('BEGIN IMMEDIATE');
	for (const table of tablesInOrder) {
		const columns = columnsOfTable(table);
		const all = await from.all<Record<string, unknown>>(
			`SELECT ${columns.join(', ')} FROM ${table}`
		);
		const start = performance.now();
		const statement = raw.prepare(
			`INSERT INTO ${table} (${columns.join(', ')}) VALUES (${columns.map(() => '?').join(', ')})`
		);
		await new Promise<void>((resolve, reject) => {
			for (const row of all)
				statement.run(Object.values(row), (error: Error | null) => error && reject(error));
			statement.finalize((error) => (error ? reject(error) : resolve()));
		});
		ms += performance.now() - start;
		rows += all.length;
	}
	const start = performance.now();
	await run('COMMIT');
	return { ms: ms + performance.now() - start, rows };
}

const tasks: Readonly<Record<string, () => Promise<object>>> = {
	make,
	csv,
	look: lookOrTake,
	take: lookOrTake,
	bare
};
process.stdout.write(JSON.stringify(await tasks[what!]!()));
process.exit(0);
