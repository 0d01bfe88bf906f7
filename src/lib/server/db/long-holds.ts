import { appendFile, open, readFile, rename, stat, writeFile } from 'node:fs/promises';
import { z } from 'zod';

/** A time for which one process kept every other from writing. */
export interface LongHold {
	/** When it ended, ms of the machine's clock. */
	readonly at: number;
	readonly ms: number;
	/** Whose it was, in words. */
	readonly by: string;
}

/** From here on others feel it, ms. */
export const longHoldMs = 50;
/** Of the file so many octets are read, from its end. */
const readBytes = 64 * 1024;
/** So long it may grow. */
const mostBytes = 1_000_000;

const schema = z.object({ at: z.number(), ms: z.number(), by: z.string().max(40) });

/** They lie beside the database and not in it: what measures its lock must not ask for it. */
const fileOf = (database: string) => `${database}-holds.jsonl`;

/** Keeps a long hold; where it cannot, nothing is lost but a figure. A file that has grown long keeps its newest lines. */
export async function keepHold(database: string, hold: LongHold): Promise<void> {
	const file = fileOf(database);
	try {
		await appendFile(file, `${JSON.stringify(hold)}\n`, { mode: 0o600 });
		if ((await stat(file)).size <= mostBytes) return;
		const part = `${file}.${process.pid}.part`;
		await writeFile(part, (await readFile(file)).subarray(-2 * readBytes), { mode: 0o600 });
		await rename(part, file);
	} catch {
		// A full disk, or a folder that is gone.
	}
}

function parsed(line: string): LongHold[] {
	try {
		const hold = schema.safeParse(JSON.parse(line));
		return hold.success ? [hold.data] : [];
	} catch {
		// The first line may be the end of one.
		return [];
	}
}

/** The long holds since a moment (ms of the machine's clock), and whether there were more of them than are read. */
export async function longHolds(
	database: string,
	since: number
): Promise<{ readonly holds: readonly LongHold[]; readonly more: boolean }> {
	const file = await open(fileOf(database)).catch(() => null);
	if (file === null) return { holds: [], more: false };
	try {
		const { size } = await file.stat();
		const start = Math.max(0, size - readBytes);
		const { buffer, bytesRead } = await file.read({
			buffer: Buffer.alloc(size - start),
			position: start
		});
		const read = buffer.toString('utf8', 0, bytesRead).split('\n').flatMap(parsed);
		const holds = read.filter((hold) => hold.at >= since);
		return { holds, more: start > 0 && holds.length === read.length };
	} finally {
		await file.close();
	}
}
