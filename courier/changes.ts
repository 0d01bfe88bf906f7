import { watch, type FSWatcher } from 'node:fs';
import { basename, dirname } from 'node:path';
import type { Db } from '../src/lib/server/db/open';
import { sleeper } from './sleeper';

/** Tells whoever waits that another process or thread has changed the database. */
export interface Changes {
	/** Changes that were seen so far. */
	readonly count: number;
	/** Resolves at the first change after `since`, after `ms`, or when all is ended. */
	wait(ms: number, since: number): Promise<void>;
	/** Says that the courier itself has put something down that another of its works should see. */
	tell(): void;
	/** Ends every waiting, now and later. */
	end(): void;
}

/** How long writes gather before the database is asked whose they were, ms: the courier's own are many while it sends. */
const gatherMs = 50;
/**
 * How often the database is asked where nobody says that it was written, ms. A file system may not; and what is told is that the
 * log was written: where the disk is slow the commit can be seen only long after, and nothing is written then.
 */
const lookMs = 1_000;

/** Watches a folder, since a log goes and comes with who opens its database; null where it cannot be watched: then the database is only asked. */
function watchedFolder(folder: string, written: (name: string | null) => void): FSWatcher | null {
	try {
		const watcher = watch(folder, (_event, name) => written(name));
		return watcher.on('error', () => watcher.close());
	} catch {
		return null;
	}
}

/**
 * Watches the log of the database (SQLite's WAL), which every commit writes to; where it was written,
 * the database is asked whether it was another connection than the one that writes here.
 */
export function watchChanges(db: Db): Changes {
	const log = `${db.file}-wal`;
	const rest = sleeper();
	let count = 0;
	let version = -1;
	let asking = false;
	let ended = false;
	let soon: NodeJS.Timeout | null = null;
	const tell = () => {
		count += 1;
		rest.wake();
	};
	async function ask(): Promise<void> {
		if (asking) return askSoon();
		asking = true;
		try {
			const now = await db.othersVersion();
			if (now === version) return;
			version = now;
			tell();
		} catch {
			// Locked or full: it is asked again soon.
		} finally {
			asking = false;
		}
	}
	const askSoon = () => {
		if (ended) return;
		soon ??= setTimeout(() => {
			soon = null;
			void ask();
		}, gatherMs);
	};
	const folder = watchedFolder(dirname(db.file), (name) => {
		if (name === basename(log)) askSoon();
	});
	const timer = setInterval(askSoon, lookMs);
	askSoon();
	return {
		get count() {
			return count;
		},
		wait: (ms, since) => (since === count ? rest.wait(ms) : Promise.resolve()),
		tell,
		end() {
			ended = true;
			folder?.close();
			clearInterval(timer);
			if (soon) clearTimeout(soon);
			rest.end();
		}
	};
}
