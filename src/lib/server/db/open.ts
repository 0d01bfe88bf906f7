import { chmodSync, closeSync, mkdirSync, openSync } from 'node:fs';
import { dirname } from 'node:path';
import { Sequelize } from 'sequelize';
import sqlite3 from 'sqlite3';
import { atOnceSql, heldSql, ownTables, standsNoMore, type Deed } from './at-once';
import { keepHold, longHoldMs } from './long-holds';
import { rowsOf, type Rows } from './models/rows';
import type { Table } from './models/table';
import { statementsOn, type Bind, type Statements } from './statements';

export type { Bind } from './statements';

export interface Query {
	/** All rows of a select. */
	all<T extends object>(sql: string, bind?: Bind): Promise<T[]>;
	/** The first row, or undefined. */
	one<T extends object>(sql: string, bind?: Bind): Promise<T | undefined>;
	/** A statement that changes rows. */
	run(sql: string, bind?: Bind): Promise<void>;
	/** Single rows of a table, through its model. */
	rows<T extends Table>(table: T): Rows<T>;
	/** Of a transaction: what it has read once and nobody else can change while it runs, by what it is called. */
	readonly kept?: Map<string, unknown>;
}

export interface Db extends Query {
	readonly file: string;
	/**
	 * A writing transaction. It takes the write lock at its start (BEGIN IMMEDIATE), so that what it
	 * reads is still true when it writes; it is undone whole if `work` throws.
	 */
	write<T>(work: (tx: Query) => Promise<T>): Promise<T>;
	/**
	 * A writing transaction that asks nothing while it runs: what it rests on was read before, and `stands` (an SQL
	 * condition) says whether that still holds. The write lock is held for as long as the engine takes and no turn of a loop longer.
	 * Resolves to false where the condition does not hold, and where it is more than the engine reads at once; nothing is changed then.
	 */
	writeAtOnce(stands: Deed, deeds: readonly Deed[]): Promise<boolean>;
	/** Changes whenever any other connection has committed, of this process or another (SQLite's data_version of the connection that writes). */
	othersVersion(): Promise<number>;
	close(): Promise<void>;
}

/** How long a statement waits for another process's write before it gives up, ms. */
const usualBusyTimeoutMs = 15_000;

/** So many reads are with the engine at once: one that runs, and those that begin as soon as it has ended. */
const readsAtOnce = 3;

/**
 * The engine, whose statements take no stack of calls: Sequelize asks for one with each statement, for
 * an error that hardly ever comes, and it costs as much as all else of a short statement. {@link told}
 * says where a statement that failed came from.
 */
class Database extends sqlite3.Database {
	override serialize(work?: () => void): void {
		const limit = Error.stackTraceLimit;
		Error.stackTraceLimit = 0;
		try {
			super.serialize(work);
		} finally {
			Error.stackTraceLimit = limit;
		}
	}
}

/** An engine's error with the stack of who asked. */
async function told<T>(statement: Promise<T>): Promise<T> {
	try {
		return await statement;
	} catch (error) {
		if (error instanceof Error) Error.captureStackTrace(error, told);
		throw error;
	}
}

/** A connection: Sequelize's models for single rows, and statements of our own. */
interface Connection {
	readonly sequelize: Sequelize;
	readonly statements: Statements;
}

async function connect(
	file: string,
	{ durable, busyTimeoutMs, atOnce }: { durable: boolean; busyTimeoutMs: number; atOnce: number }
): Promise<Connection> {
	const sequelize = new Sequelize({
		dialect: 'sqlite',
		dialectModule: { ...sqlite3, Database },
		storage: file,
		logging: false
	});
	const manager = (
		sequelize as unknown as {
			connectionManager: { getConnection(o: object): Promise<sqlite3.Database> };
		}
	).connectionManager;
	const connection = await manager.getConnection({});
	connection.configure('busyTimeout', busyTimeoutMs);
	const statements = statementsOn(connection, atOnce);
	await statements.all('PRAGMA journal_mode = WAL', {});
	// FULL: what was committed outlives a power cut, so that what was sent is known to be sent.
	await statements.all(`PRAGMA synchronous = ${durable ? 'FULL' : 'OFF'}`, {});
	return { sequelize, statements };
}

const ended = async ({ sequelize, statements }: Connection): Promise<void> => {
	await statements.forget();
	await sequelize.close();
};

function queryOn({ sequelize, statements }: Connection): Query {
	return {
		all: <T extends object>(sql: string, bind: Bind = {}) => told(statements.all<T>(sql, bind)),
		one: async <T extends object>(sql: string, bind: Bind = {}): Promise<T | undefined> => {
			const rows: T[] = await told(statements.all<T>(sql, bind));
			return rows[0];
		},
		run: async (sql: string, bind: Bind = {}) => {
			await told(statements.all(sql, bind));
		},
		rows: (table) => rowsOf(sequelize, table)
	};
}

/**
 * Opens the database file with WAL and foreign keys on. The file is made where it is missing;
 * migrations give it tables.
 *
 * A process has one connection that reads and one that writes. Writes wait for each other here and
 * not inside SQLite, where each waiting one would hold a thread of the pool, and enough of them
 * would keep the one that has the lock from ever finishing.
 *
 * `as` says whose process it is, where somebody reads who held the write lock for long.
 *
 * `durable: false` is for data that can be made anew: it does not wait for the disk.
 */
export async function openDatabase(
	file: string,
	{ durable = true, busyTimeoutMs = usualBusyTimeoutMs, as = 'another process' } = {}
): Promise<Db> {
	mkdirSync(dirname(file), { recursive: true, mode: 0o700 });
	// Names, addresses and words of families: its log has the same rights as the file itself.
	closeSync(openSync(file, 'a', 0o600));
	chmodSync(file, 0o600);
	const reader = await connect(file, { durable, busyTimeoutMs, atOnce: readsAtOnce });
	// What is written goes by its order.
	const writer = await connect(file, { durable, busyTimeoutMs, atOnce: 1 });
	await writer.statements.script(ownTables);
	const tx = queryOn(writer);
	const held = (ms: number) => {
		if (ms > longHoldMs) void keepHold(file, { at: Date.now(), ms: Math.round(ms), by: as });
	};
	let last: Promise<unknown> = Promise.resolve();
	const inTurn = <T>(work: () => Promise<T>): Promise<T> => {
		const mine = last.then(work, work);
		last = mine.catch(() => {});
		return mine;
	};
	return {
		file,
		...queryOn(reader),
		run: (sql, bind) => inTurn(() => tx.run(sql, bind)),
		rows(table) {
			const [read, write] = [rowsOf(reader.sequelize, table), rowsOf(writer.sequelize, table)];
			return {
				one: read.one,
				add: (row) => inTurn(() => write.add(row)),
				addMany: (rows, whenThere) => inTurn(() => write.addMany(rows, whenThere)),
				change: (where, values) => inTurn(() => write.change(where, values)),
				remove: (where) => inTurn(() => write.remove(where))
			};
		},
		write: (work) =>
			inTurn(async () => {
				await tx.run('BEGIN IMMEDIATE');
				const since = performance.now();
				try {
					const result = await work({ ...tx, kept: new Map() });
					await tx.run('COMMIT');
					return result;
				} catch (error) {
					await tx.run('ROLLBACK').catch(() => {});
					throw error;
				} finally {
					held(performance.now() - since);
				}
			}),
		writeAtOnce: (stands, deeds) =>
			inTurn(async () => {
				const sql = atOnceSql(stands, deeds);
				if (sql === null) return false;
				const since = performance.now();
				try {
					await told(writer.statements.script(sql));
				} catch (error) {
					if (standsNoMore(error)) return false;
					await tx.run('ROLLBACK').catch(() => {});
					throw error;
				}
				// Most of a long one is waiting for the lock of another: asked only where it matters. It is written, whatever comes of that.
				if (performance.now() - since > longHoldMs)
					await tx.one<{ ms: number }>(heldSql).then(
						(row) => held(row!.ms),
						() => undefined
					);
				return true;
			}),
		othersVersion: () =>
			inTurn(
				async () => (await tx.one<{ data_version: number }>('PRAGMA data_version'))!.data_version
			),
		async close() {
			await last;
			await ended(writer);
			await ended(reader);
		}
	};
}
