import { chmodSync, mkdirSync, renameSync, rmSync, statSync } from 'node:fs';
import { copyFile, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import sqlite3 from 'sqlite3';
import { pack, unpack } from './archive';

/** What a backup holds, and how it went. */
export interface BackedUp {
	readonly archive: string;
	/** Octets of the archive, and of the database in it. */
	readonly bytes: number;
	readonly databaseBytes: number;
	readonly files: number;
	/** What the database's log still holds after it was cut, octets. */
	readonly logBytes: number;
	readonly ms: number;
}

/** The part of sqlite3's backup that is used here; its types leave it out. */
interface Copying {
	readonly completed: boolean;
	readonly failed: boolean;
	step(pages: number, done: (error: Error | null) => void): void;
	finish(done?: (error: Error | null) => void): void;
}

/** Pages copied at a time: the thread is free for others between. */
const pagesAtOnce = 2_000;

const run = (db: sqlite3.Database, sql: string): Promise<void> =>
	new Promise((resolve, reject) => db.exec(sql, (e) => (e ? reject(e) : resolve())));
const get = <T>(db: sqlite3.Database, sql: string): Promise<T> =>
	new Promise((resolve, reject) => db.get<T>(sql, (e, row) => (e ? reject(e) : resolve(row))));
const opened = (file: string): Promise<sqlite3.Database> =>
	new Promise((resolve, reject) => {
		const db: sqlite3.Database = new sqlite3.Database(file, sqlite3.OPEN_READWRITE, (e) =>
			e ? reject(e) : resolve(db)
		);
		db.configure('busyTimeout', 15_000);
	});
const closed = (db: sqlite3.Database): Promise<void> =>
	new Promise((resolve, reject) => db.close((e) => (e ? reject(e) : resolve())));

/**
 * Copies the pages of a database as they are at one moment, while others go on writing. A transaction that reads is
 * held meanwhile: without one, SQLite begins anew at each commit of another process (sqlite.org/backup.html), and under load it never ends.
 */
async function copyPages(db: sqlite3.Database, into: string): Promise<void> {
	await run(db, 'BEGIN');
	try {
		await get(db, 'SELECT count(*) FROM migration');
		const copying = (db as unknown as { backup(file: string): Copying }).backup(into);
		try {
			while (!copying.completed) {
				await new Promise<void>((resolve, reject) =>
					copying.step(pagesAtOnce, (e) => (e ? reject(e) : resolve()))
				);
				if (copying.failed) throw new Error('the database could not be copied');
			}
		} finally {
			await new Promise<void>((resolve) => copying.finish(() => resolve()));
		}
	} finally {
		await run(db, 'COMMIT');
	}
}

/** Cuts the log of the database, once nobody reads from it any more what it held back. */
async function cutLog(db: sqlite3.Database): Promise<void> {
	for (let tries = 0; tries < 20; tries += 1) {
		const { busy } = await get<{ busy: number }>(db, 'PRAGMA wal_checkpoint(TRUNCATE)');
		if (busy === 0) return;
		await new Promise((go) => setTimeout(go, 250));
	}
}

/**
 * Takes a backup while everything runs: the database as it is at one moment, the link key, and the files that were put in. It
 * is one archive, opened and compared before it has its name, whole or not there. The mark beside the database stays behind on purpose: by it, a backup that was put back is noticed.
 *
 * @throws Error where the archive is there already, or something of it cannot be read or does not hold together.
 */
export async function backUp(dataFolder: string, into: string): Promise<BackedUp> {
	const begun = performance.now();
	const database = join(dataFolder, 'courier.sqlite');
	if (statSync(into, { throwIfNoEntry: false })) throw new Error(`${into} is there already.`);
	if (!statSync(database, { throwIfNoEntry: false })) {
		throw new Error(
			`There is no database at ${database}. Set IDLE_COURIER_DATA to the data folder.`
		);
	}
	const part = `${into}.parts`;
	const unnamed = `${into}.part`;
	const tidy = () => {
		for (const path of [part, unnamed]) rmSync(path, { recursive: true, force: true });
	};
	tidy();
	mkdirSync(part, { recursive: true, mode: 0o700 });
	const copy = join(part, 'courier.sqlite');
	const db = await opened(database);
	try {
		await copyPages(db, copy);
		chmodSync(copy, 0o600);
		const check = await opened(copy);
		const { quick_check: sound } = await get<{ quick_check: string }>(
			check,
			'PRAGMA quick_check(1)'
		);
		await closed(check);
		if (sound !== 'ok') throw new Error(`the copy does not hold together: ${sound}`);
		await copyFile(join(dataFolder, 'link.key'), join(part, 'link.key'));
		// After the database: every file that it names was there before it was copied. What lies under a hash never changes.
		const names = await readdir(join(dataFolder, 'files')).catch(() => [] as string[]);
		const whole = names.filter((name) => /^[0-9a-f]{64}$/.test(name));
		const parts = new Map([
			['courier.sqlite', copy],
			['link.key', join(part, 'link.key')],
			...whole.map((name) => [`files/${name}`, join(dataFolder, 'files', name)] as const)
		]);
		await pack(unnamed, parts, new Date());
		await unpack(unnamed, null);
		const databaseBytes = statSync(copy).size;
		renameSync(unnamed, into);
		await cutLog(db);
		return {
			archive: into,
			bytes: statSync(into).size,
			databaseBytes,
			files: whole.length,
			logBytes: statSync(`${database}-wal`, { throwIfNoEntry: false })?.size ?? 0,
			ms: Math.round(performance.now() - begun)
		};
	} finally {
		tidy();
		await closed(db);
	}
}
