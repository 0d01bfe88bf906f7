import { resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import { Unreadable } from '../gateway/return-mail';
import type { ReadingTasks } from './tasks';
import type { Answered, Asked } from './worker';

/** What was handed in could not be looked at in the time it may take. */
export class TooLong extends Error {}

/** How long one look may take before its thread is ended, ms. */
const deadlineMs = 20_000;

type Kind = 'files' | 'passwords';
const kinds: Readonly<Record<keyof ReadingTasks, Kind>> = {
	fileKind: 'files',
	calendar: 'files',
	feed: 'files',
	mail: 'files',
	hash: 'passwords',
	hashFits: 'passwords'
};

/** As many at once: a password's hash takes 32 MiB and a core, and no more than two of them may hold up everything else. */
const atOnce: Readonly<Record<Kind, number>> = { files: 2, passwords: 2 };
const pools = new Map<Kind, Piscina>();

/** The threads of a kind, started when they are first needed; idle ones go. */
function poolOf(kind: Kind): Piscina {
	let pool = pools.get(kind);
	if (!pool) {
		// From its source where this is one (tests); else as it was built.
		const here = import.meta.url;
		const source = here.endsWith('/reading/reading.ts');
		pool = new Piscina({
			filename: source
				? fileURLToPath(new URL('worker.ts', here))
				: resolve(process.env.IDLE_COURIER_READER ?? 'build/processes/reader.js'),
			...(source ? { execArgv: ['--import', 'tsx'] } : {}),
			minThreads: 0,
			maxThreads: atOnce[kind],
			idleTimeout: 30_000,
			maxQueue: 1_000,
			resourceLimits: { maxOldGenerationSizeMb: 512 }
		});
		pools.set(kind, pool);
	}
	return pool;
}

/**
 * Has something that strangers handed in looked at, in a thread of its own.
 *
 * @throws TooLong where it takes longer than it may: its thread is ended.
 */
export async function read<K extends keyof ReadingTasks>(
	task: K,
	args: Parameters<ReadingTasks[K]>,
	ms: number = deadlineMs
): Promise<Awaited<ReturnType<ReadingTasks[K]>>> {
	const ending = new AbortController();
	const timer = setTimeout(() => ending.abort(), ms);
	let answered: Answered;
	try {
		answered = (await poolOf(kinds[task]).run({ task, args } satisfies Asked, {
			signal: ending.signal
		})) as Answered;
	} catch (error) {
		if (ending.signal.aborted) {
			throw new TooLong(`It could not be read within ${Math.round(ms / 1000)} seconds.`);
		}
		throw error;
	} finally {
		clearTimeout(timer);
	}
	if (answered.ok) return answered.value as never;
	throw answered.unreadable ? new Unreadable(answered.message) : new Error(answered.message);
}

/** Ends the threads. */
export async function endReading(): Promise<void> {
	const all = [...pools.values()];
	pools.clear();
	await Promise.all(all.map((pool) => pool.destroy()));
}
