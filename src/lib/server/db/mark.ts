import { readFile, rename, stat, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { z } from 'zod';
import { now } from '../clock';
import type { Deed } from './at-once';
import type { Db } from './open';
import type { MarkRow } from './models/running';

/** The mark beside the database. */
const markFileSchema = z.object({
	number: z.number().int().min(0),
	/** Where the database lies on its disk (its inode). */
	place: z.string().max(40)
});

/** Why nothing leaves from a database until a person has looked. */
export const heldSchema = z.object({
	/** `older`: copies have left since that it does not know of; `copied`: it lies elsewhere than when copies last left; `no-mark`: it has sent, and there is no mark beside it that can be read; `restored`: it was put back from a backup by the command for it. */
	why: z.enum(['older', 'copied', 'no-mark', 'restored']),
	/** When it was noticed, and when the last copy it knows of left (instants, ms). */
	at: z.number(),
	lastLeftAt: z.number().nullable()
});
export type Held = z.infer<typeof heldSchema>;

/**
 * A mark that moves on whenever copies are taken up: a number in the database and in a file beside
 * it, with the file's own place on the disk. A database that was put back from a backup, or that was
 * copied from elsewhere, has another number or another place. What it takes for due may have left long ago.
 */
export interface Mark {
	/** Compares database and file, and holds the database where they do not belong together. Resolves to why it is held; null where it is not. */
	look(): Promise<Held | null>;
	/** Moves the number on, in the transaction of a claim. */
	readonly moved: Deed;
	/** The number as it was committed last. */
	number(): Promise<number>;
	/** Says that somebody has looked: the mark belongs to this database from here on. */
	accept(): Promise<void>;
	/** Writes a number that was committed down beside the database; to be awaited before what was claimed is handed over. */
	keep(number: number): Promise<void>;
}

/** Holds a database for a reason, as it is noticed now. */
async function hold(db: Db, why: Held['why']): Promise<Held> {
	const last = await db.one<{ at: number | null }>(
		'SELECT max(state_at) AS at FROM delivery WHERE left_at IS NOT NULL'
	);
	const held: Held = { why, at: Math.round(await now(db)), lastLeftAt: last?.at ?? null };
	await db.run('UPDATE mark SET held = $held', { held: JSON.stringify(held) });
	return held;
}

/** Holds a database that was put back from a backup, also one that had sent nothing when it was taken. */
export const holdRestored = (db: Db): Promise<Held> => hold(db, 'restored');

export const markFile = (databaseFile: string): string =>
	join(dirname(databaseFile), 'courier.mark');

export function makeMark(db: Db): Mark {
	const file = markFile(db.file);
	/** Where the database lies on its disk: a copy lies elsewhere. */
	const place = async () => String((await stat(db.file, { bigint: true })).ino);
	const put = async (number: number) => {
		const beside = `${file}.${process.pid}.part`;
		await writeFile(beside, JSON.stringify({ number, place: await place() }), { mode: 0o600 });
		await rename(beside, file);
	};
	// Ways claim side by side: one is written at a time, and what is behind a number that stands needs no writing.
	let stands = -1;
	let highest = -1;
	let turn: Promise<unknown> = Promise.resolve();
	const keep = (number: number): Promise<void> => {
		highest = Math.max(highest, number);
		const mine = turn.then(async () => {
			if (stands >= number) return;
			const next = highest;
			await put(next);
			stands = next;
		});
		turn = mine.catch(() => undefined);
		return mine;
	};
	const committed = async (): Promise<number> =>
		(await db.one<Pick<MarkRow, 'number'>>('SELECT number FROM mark'))!.number;
	/** What the file says; null where it cannot be read, undefined where there is none. */
	async function readMark(): Promise<z.infer<typeof markFileSchema> | null | undefined> {
		try {
			const read = markFileSchema.safeParse(JSON.parse(await readFile(file, 'utf8')));
			return read.success ? read.data : null;
		} catch (error) {
			const { code } = error as NodeJS.ErrnoException;
			if (code === 'ENOENT') return undefined;
			if (code !== undefined) throw error;
			return null;
		}
	}
	async function compare(number: number): Promise<Held['why'] | null> {
		const read = await readMark();
		// A new database has none yet.
		if (read === undefined && number === 0) return null;
		if (!read) return 'no-mark';
		if (read.number > number) return 'older';
		return read.place === (await place()) ? null : 'copied';
	}
	return {
		keep,
		async look() {
			const row = (await db.one<Pick<MarkRow, 'number' | 'held'>>(
				'SELECT number, held FROM mark'
			))!;
			if (row.held !== null) return heldSchema.parse(JSON.parse(row.held));
			const why = await compare(row.number);
			if (why === null) {
				await keep(row.number);
				return null;
			}
			return hold(db, why);
		},
		async accept() {
			// Ahead of whatever the file says, and in the file before the database lets anything go.
			const next = Math.max(await committed(), (await readMark())?.number ?? 0) + 1;
			await db.run('UPDATE mark SET number = $next', { next });
			await keep(next);
			await db.run('UPDATE mark SET held = NULL');
		},
		moved: { sql: 'UPDATE mark SET number = number + 1', bind: {} },
		number: committed
	};
}
