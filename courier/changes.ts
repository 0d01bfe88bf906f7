import { statSync, watch, type FSWatcher } from 'node:fs';
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
/** How often the file is looked at where nobody says that it was written, ms: a file system may not. */
const lookMs = 1_000;

/** Watches a folder, since a log goes and comes with who opens its database; null where it cannot be watched: then it is only looked at. */
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
	let seen = '';
	let version = -1;
	let asking = false;
	let ended = false;
	let soon: NodeJS.Timeout | null = null;
	const tell = () => {
		count += 1;
		rest.wake();
	};
	const written = (): string => {
		try {
			const { mtimeNs, size } = statSync(log, { bigint: true });
			return `${mtimeNs} ${size}`;
		} catch {
			return '';
		}
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
			// Locked or full: the next look comes soon.
			seen = '';
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
	/** Two commits within one tick of the file system's clock look like one: a later look, soon after the courier's own beat, has the second one seen. */
	const look = () => {
		const at = written();
		if (at === seen) return;
		seen = at;
		askSoon();
	};
	const folder = watchedFolder(dirname(db.file), (name) => {
		if (name === basename(log)) askSoon();
	});
	const timer = setInterval(look, lookMs);
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
