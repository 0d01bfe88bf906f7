import { readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { now } from '../../clock';
import { rosterFile, type FileState, type RosterFileRow } from '../../db/models/rosters';
import type { Db } from '../../db/open';
import { rosterFolder } from './look-file';

const minuteMs = 60_000;
/** A file that has not come whole by then will not any more. */
const comingMs = 24 * 60 * minuteMs;
/** After so long what the night has in hand was left in the middle. */
const nightMs = 10 * minuteMs;

/** What becomes of a file that was left in the middle of something. */
const leftIn: Partial<Record<FileState, Pick<RosterFileRow, 'state' | 'why'>>> = {
	taking: {
		state: 'looked',
		why: 'It was broken off while it came in, and nothing has come in. Take it in once more; if it comes again, tell whoever runs the server.'
	},
	looking: {
		state: 'refused',
		why: 'It could not be looked at to its end: it may be too large for this server. Bring it once more, or tell whoever runs it.'
	}
};

/**
 * Says of a file that a process which is no more had in hand that nothing has come of it: what is written
 * is written whole or not at all. Only where it still stands as it was seen: between the look at it and
 * this it may have come in.
 */
export async function endedInTheMiddle(
	db: Db,
	{ id, state }: Pick<RosterFileRow, 'id' | 'state'>
): Promise<void> {
	const ended = leftIn[state];
	if (ended)
		await db
			.rows(rosterFile)
			.change({ id, state }, { ...ended, changedAt: Math.round(await now(db)) });
}

/** Gives up what the night left in the middle: it is brought again whole. */
export async function giveUpNightly(db: Db, sourceId: number): Promise<void> {
	const before = Math.round((await now(db)) - nightMs);
	await db.run(
		`UPDATE roster_file SET state = 'given-up' WHERE source_id = $sourceId AND by_id IS NULL
			AND state IN ('coming', 'looking', 'taking') AND changed_at < $before`,
		{ sourceId, before }
	);
}

/**
 * Takes away what nobody needs any more: files that never came whole, and the tables of those that were
 * decided on, but for the newest of each source that came in. What became of them stays in the list.
 */
export async function clearAway(db: Db, dataFolder: string): Promise<void> {
	await db.run(
		`UPDATE roster_file SET state = 'given-up' WHERE state = 'coming' AND changed_at < $before`,
		{ before: Math.round((await now(db)) - comingMs) }
	);
	const kept = new Set(
		(
			await db.all<{ id: number }>(
				`SELECT id FROM roster_file WHERE state IN ('coming', 'looking', 'looked', 'taking')
				UNION SELECT max(id) FROM roster_file WHERE state = 'taken' GROUP BY source_id`
			)
		).map((r) => String(r.id))
	);
	const folders = await readdir(join(dataFolder, 'rosters')).catch(() => []);
	for (const name of folders)
		if (/^\d+$/.test(name) && !kept.has(name))
			await rm(rosterFolder(dataFolder, Number(name)), { recursive: true, force: true });
}
