import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';

/** Files that lie in a folder whole: nothing about them has changed since they were looked at before. */
export interface WatchedFolder {
	/**
	 * The names of what is to be brought: the newest zip, or all loose tables. Null while there is nothing,
	 * while something still changes, and once it was given.
	 */
	ready(): Promise<readonly string[] | null>;
}

/** Names that programs give to what they have not finished. */
const unfinished = /(^\.)|(\.(part|partial|tmp|temp|filepart|crdownload|swp))$/i;

/**
 * Watches a folder for rosters. A file that is being written has another size or time at the next look;
 * what was the same at two looks in a row is whole. The looks are the caller's, some seconds apart.
 */
export function watchedFolder(folder: string): WatchedFolder {
	let before = '';
	let given = '';
	return {
		async ready() {
			const files = await filesIn(folder);
			const zips = files.filter((f) => f.name.toLowerCase().endsWith('.zip'));
			const chosen =
				zips.length > 0
					? [zips.reduce((newest, f) => (f.changedAt > newest.changedAt ? f : newest))]
					: files.filter((f) => f.name.toLowerCase().endsWith('.csv'));
			const mark = chosen.map((f) => `${f.name} ${f.bytes} ${f.changedAt}`).join('\n');
			const same = mark === before;
			before = mark;
			if (!same || mark === '' || mark === given) return null;
			given = mark;
			return chosen.map((f) => f.name);
		}
	};
}

interface Seen {
	readonly name: string;
	readonly bytes: number;
	readonly changedAt: number;
}

async function filesIn(folder: string): Promise<Seen[]> {
	const entries = await readdir(folder, { withFileTypes: true });
	const seen: Seen[] = [];
	for (const entry of entries) {
		if (!entry.isFile() || unfinished.test(entry.name)) continue;
		try {
			const { size, mtimeMs } = await stat(join(folder, entry.name));
			seen.push({ name: entry.name, bytes: size, changedAt: mtimeMs });
		} catch (error) {
			// Taken away between the two looks at it.
			if ((error as NodeJS.ErrnoException).code !== 'ENOENT') throw error;
		}
	}
	return seen.sort((a, b) => (a.name < b.name ? -1 : 1));
}
