import type { Db, Query } from './db/open';
import type { ClockRow } from './db/models/running';

/**
 * The one clock of the job. Its offset lies in the database, so that every process has the same
 * time and the demo can move it on; elsewhere the offset stays 0. Nothing in the job's logic reads
 * the machine's time by itself.
 */

/** What a transaction keeps of the clock: its offset, ms. */
const keptAs = 'clock offset';

/** Now, ms since the epoch. */
export async function now(db: Query): Promise<number> {
	const known = db.kept?.get(keptAs) as number | undefined;
	if (known !== undefined) return Date.now() + known;
	const row = await db.one<{ offset_ms: ClockRow['offsetMs'] }>('SELECT offset_ms FROM clock');
	const offset = row?.offset_ms ?? 0;
	db.kept?.set(keptAs, offset);
	return Date.now() + offset;
}

/** In SQL: how far the job’s time is ahead of the machine’s, ms. */
export const jobOffset = 'coalesce((SELECT offset_ms FROM clock), 0)';

/** Moves the clock so that it stands at `instant`. It never goes back: an earlier instant leaves it where it is. Returns the time it then has. */
export async function moveTo(db: Db, instant: number): Promise<number> {
	return db.write(async (tx) => {
		const current = await now(tx);
		if (instant <= current) return current;
		await tx.run('UPDATE clock SET offset_ms = $offset', { offset: instant - Date.now() });
		tx.kept?.delete(keptAs);
		return instant;
	});
}

/** Sets the clock at the making of a data set or the start of the demo, back as well as on. */
export async function setClock(db: Db, instant: number): Promise<void> {
	await db.run('UPDATE clock SET offset_ms = $offset', { offset: instant - Date.now() });
}
