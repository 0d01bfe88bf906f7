import { appendFile, open } from 'node:fs/promises';
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

const schema = z.object({ at: z.number(), ms: z.number(), by: z.string().max(40) });

/** They lie beside the database and not in it: what measures its lock must not ask for it. */
const fileOf = (database: string) => `${database}-holds.jsonl`;

/** Keeps a long hold; where it cannot, nothing is lost but a figure. */
export const keepHold = (database: string, hold: LongHold): Promise<void> =>
	appendFile(fileOf(database), `${JSON.stringify(hold)}\n`, { mode: 0o600 }).catch(() => {});

function parsed(line: string): LongHold[] {
	try {
		const hold = schema.safeParse(JSON.parse(line));
		return hold.success ? [hold.data] : [];
	} catch {
		// The first line may be the end of one.
		return [];
	}
}

/** The long holds since a moment (ms of the machine's clock), of the newest some thousand. */
export async function longHolds(database: string, since: number): Promise<LongHold[]> {
	const file = await open(fileOf(database)).catch(() => null);
	if (file === null) return [];
	try {
		const { size } = await file.stat();
		const start = Math.max(0, size - readBytes);
		const { buffer, bytesRead } = await file.read({
			buffer: Buffer.alloc(size - start),
			position: start
		});
		return buffer
			.toString('utf8', 0, bytesRead)
			.split('\n')
			.flatMap(parsed)
			.filter((hold) => hold.at >= since);
	} finally {
		await file.close();
	}
}
