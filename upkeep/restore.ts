import { mkdirSync, readdirSync, renameSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { holdRestored } from '../src/lib/server/db/mark';
import { openDatabase, type Db } from '../src/lib/server/db/open';
import { NoArchive, unpack } from './archive';

/** What was put back. */
export interface Restored {
	/** When the backup was taken. */
	readonly at: string;
	readonly files: number;
}

/** Ends what was open when the backup was taken and may have been ended or used up since: nobody comes in by a session or a mailed link of then. */
async function endWaysIn(db: Db): Promise<void> {
	await db.run('DELETE FROM session');
	// A backup of an older version has none.
	const links = await db.one(
		`SELECT 1 FROM sqlite_master WHERE type = 'table' AND name = 'account_link'`
	);
	if (links) await db.run('UPDATE account_link SET ends_at = made_at WHERE used_at IS NULL');
}

/**
 * Puts a backup back into an empty folder: whole or not at all. From there nothing leaves until somebody of the district
 * office has looked: what it takes for due may have left after the backup was taken.
 *
 * @throws Error where the folder is not empty, or the archive is none that can be used; then nothing is left behind.
 */
export async function restore(archive: string, dataFolder: string): Promise<Restored> {
	mkdirSync(dataFolder, { recursive: true, mode: 0o700 });
	const [there] = readdirSync(dataFolder);
	if (there !== undefined)
		throw new Error(
			`${dataFolder} is not empty (${there} lies there). A backup is put back into an empty folder, so that nothing is overwritten.`
		);
	const part = join(dataFolder, '.restoring');
	mkdirSync(part, { mode: 0o700 });
	try {
		const { at, parts } = await unpack(archive, part);
		const db = await openDatabase(join(part, 'courier.sqlite'));
		try {
			const [sound] = await db.all<{ quick_check: string }>('PRAGMA quick_check(1)');
			if (sound?.quick_check !== 'ok')
				throw new NoArchive(
					`The database in ${archive} does not hold together: ${sound?.quick_check}.`
				);
			await holdRestored(db);
			await endWaysIn(db);
		} finally {
			await db.close();
		}
		for (const name of readdirSync(part)) renameSync(join(part, name), join(dataFolder, name));
		return { at, files: Object.keys(parts).filter((name) => name.startsWith('files/')).length };
	} finally {
		rmSync(part, { recursive: true, force: true });
	}
}
