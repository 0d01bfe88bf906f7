/**
 * A district's roster, in a process of its own. Prints one line of JSON.
 *
 *   make <database> <folder>   writes what the database holds as loose OneRoster 1.2 tables
 *   csv <folder>               csv-parse alone reads those tables
 *   look <folder>              the same tables looked at, in an empty district
 *   take <folder>              looked at and taken in; says where, and how many rows of each table there are then
 *   bare <database>            the rows of that database put into an empty one by prepared statements, one by one
 *   beside <database>          tallies of that district, alone and while its own roster comes in with other addresses
 *   into <database> <folder>   the tables looked at and taken in, into that database
 */
import { spawn } from 'node:child_process';
import { createReadStream, createWriteStream, mkdirSync, mkdtempSync, readdirSync } from 'node:fs';
import { copyFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { performance } from 'node:perf_hooks';
import { pipeline } from 'node:stream/promises';
import { parse } from 'csv-parse';
import sqlite3 from 'sqlite3';
import { writeSetting } from '../../src/lib/server/db/district';
import { migrate } from '../../src/lib/server/db/migrate';
import { openDatabase, type Db } from '../../src/lib/server/db/open';
import { landing } from '../../src/lib/server/desk/plan/tally';
import { heldTables } from '../../src/lib/server/desk/roster/export';
import { addFile, changeFile } from '../../src/lib/server/desk/roster/files';
import { lookAt } from '../../src/lib/server/desk/roster/look';
import { tablesFolder } from '../../src/lib/server/desk/roster/look-file';
import { columnsOfTable, tablesInOrder } from '../../src/lib/server/desk/roster/row-tables';
import { sourceNamed } from '../../src/lib/server/desk/roster/sources';
import { takeIn } from '../../src/lib/server/desk/roster/take-in';
import { testDistrict } from '../unit/server/database';
import { benchSheet, openFor } from './bench-sheet';
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

/** Looks at the tables of a folder, as what came to a district, and takes them in where that is asked for. */
async function bring(
	{ db, folder }: { readonly db: Db; readonly folder: string },
	tables: string,
	take: boolean
): Promise<{ lookMs: number; takeMs: number }> {
	const { id: sourceId } = await sourceNamed(db, 'Harbor Records');
	const id = await addFile(db, folder, sourceId, 'roster', null);
	for (const name of readdirSync(tables))
		await copyFile(join(tables, name), join(tablesFolder(folder, id), name));
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
	if (take) {
		const taken = await takeIn(house, id, { user: null, typed: null }, () => {});
		if (!taken.ok) throw new Error(taken.why);
	}
	return { lookMs: looked - start, takeMs: performance.now() - looked };
}

async function lookOrTake(): Promise<object> {
	const district = await emptyDistrict();
	const took = await bring(district, first, what === 'take');
	await district.db.close();
	return { ...took, megabytes: process.resourceUsage().maxRSS / 1024, file: district.file };
}

async function into(): Promise<object> {
	const db = await openDatabase(first);
	const took = await bring({ db, folder: dirname(first) }, second, true);
	await db.close();
	return took;
}

/** Every twentieth address of the district's own tables is another one. */
async function putMoved(db: Db, folder: string): Promise<void> {
	mkdirSync(folder, { recursive: true });
	function* moved(rows: Iterable<readonly string[]>) {
		let email = -1;
		let n = 0;
		for (const row of rows) {
			if (n === 0) email = row.indexOf('email');
			n += 1;
			yield email >= 0 && n > 1 && n % 20 === 0 && row[email] !== ''
				? row.map((cell, i) => (i === email ? `moved.${n}@islandpost.example` : cell))
				: row;
		}
	}
	for (const { name, rows } of await heldTables(db, key))
		await pipeline(csvStream(moved(rows)), createWriteStream(join(folder, name)));
}

const median = (list: readonly number[]): number =>
	[...list].sort((a, b) => a - b)[Math.floor(list.length / 2)]!;

/** Tallies of one school after another, as somebody else asks for them. */
async function beside(): Promise<object> {
	const folder = mkdtempSync(join(tmpdir(), 'idle-courier-bench-'));
	const file = join(folder, 'courier.sqlite');
	await copyFile(first, file);
	const db = await openDatabase(file);
	await migrate(db);
	const user = await openFor(db);
	const tables = join(folder, 'tables');
	await putMoved(db, tables);
	let school = 0;
	const tally = async (): Promise<number> => {
		school = (school % 40) + 1;
		const start = performance.now();
		await landing(db, user, benchSheet([school], ['email', 'text', 'inbox']));
		return performance.now() - start;
	};
	await tally();
	const alone: number[] = [];
	for (let n = 0; n < 80; n += 1) alone.push(await tally());
	const child = spawn(
		process.execPath,
		[...process.execArgv, 'test/bench/roster.ts', 'into', file, tables],
		{ stdio: ['ignore', 'ignore', 'inherit'] }
	);
	let code: number | null | undefined;
	child.once('exit', (ended) => (code = ended ?? 1));
	const meanwhile: number[] = [];
	while (code === undefined) meanwhile.push(await tally());
	if (code !== 0) throw new Error('the roster did not come in');
	const changed = await db.one<{ n: number }>(
		`SELECT count(*) AS n FROM address WHERE value LIKE 'moved.%@islandpost.example'`
	);
	return {
		...{ aloneMs: median(alone), besideMs: median(meanwhile), worstMs: Math.max(...meanwhile) },
		...{ tallies: meanwhile.length, changed: changed!.n }
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
	into,
	beside,
	bare
};
process.stdout.write(JSON.stringify(await tasks[what!]!()));
process.exit(0);
