import { copyFileSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sqlite3 from 'sqlite3';
import { districtSchema, writeSetting } from '../../src/lib/server/db/district';
import type { Query } from '../../src/lib/server/db/open';

/** A folder of this process's own, gone when it ends. */
export function ownFolder(): string {
	const folder = mkdtempSync(join(tmpdir(), 'idle-courier-bench-'));
	process.on('exit', () => rmSync(folder, { recursive: true, force: true }));
	return folder;
}

/** A copy of the district's file to write into, so that the next part of the bench finds it as it was. */
export function ownCopy(file: string): string {
	const copy = join(ownFolder(), 'courier.sqlite');
	copyFileSync(file, copy);
	return copy;
}

/** The bare driver on a file, committing for good: what a baseline is measured with. */
export async function bareDriver(file: string) {
	const bare = new sqlite3.Database(file);
	const run = (sql: string) =>
		new Promise<void>((done, no) => bare.run(sql, (e) => (e ? no(e) : done())));
	await run('PRAGMA journal_mode = WAL');
	await run('PRAGMA synchronous = FULL');
	return {
		run,
		/** A prepared statement, by what it is given. */
		prepared(sql: string) {
			const statement = bare.prepare(sql);
			return (...values: unknown[]) =>
				new Promise<void>((done, no) =>
					statement.run(values, (e: Error | null) => (e ? no(e) : done()))
				);
		}
	};
}

/** The settings of a district that nobody has set up otherwise. */
export const usualDistrict = (tx: Query) =>
	writeSetting(
		tx,
		'district',
		districtSchema.parse({
			...{ name: 'Brackwater Isles', zone: 'America/New_York', linkDays: 180 },
			...{ mailFrom: 'letters@brackwater.example', textFrom: '12075550100' }
		})
	);
