import { statSync } from 'node:fs';
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

/** How often the file is looked at, ms: a look costs some microseconds. */
const lookMs = 100;

/**
 * Looks at the log of the database (SQLite's WAL), which every commit writes to; where it has moved,
 * the database is asked whether it was another connection than the one that writes here. Two commits within one tick of the
 * file system's clock look like one: the courier's own beat, soon after, has the second one seen.
 */
export function watchChanges(db: Db): Changes {
	const log = `${db.file}-wal`;
	const look = (): string => {
		try {
			const { mtimeNs, size } = statSync(log, { bigint: true });
			return `${mtimeNs} ${size}`;
		} catch {
			return '';
		}
	};
	const rest = sleeper();
	let count = 0;
	let seen = '';
	let version = -1;
	let asking = false;
	const tell = () => {
		count += 1;
		rest.wake();
	};
	async function ask(): Promise<void> {
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
	const timer = setInterval(() => {
		if (asking) return;
		const at = look();
		if (at === seen) return;
		seen = at;
		void ask();
	}, lookMs);
	return {
		get count() {
			return count;
		},
		wait: (ms, since) => (since === count ? rest.wait(ms) : Promise.resolve()),
		tell,
		end() {
			clearInterval(timer);
			rest.end();
		}
	};
}
