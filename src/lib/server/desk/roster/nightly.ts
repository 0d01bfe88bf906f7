import { copyFile } from 'node:fs/promises';
import { join } from 'node:path';
import { tooMuch } from '../../../core/roster/counts';
import { rosterFile } from '../../db/models/rosters';
import type { Query } from '../../db/open';
import { addFile, changeFile, contentOf } from './files';
import type { RosterHouse } from './house';
import { clearAway, giveUpNightly } from './left-behind';
import { lookAt } from './look';
import { tablesFolder } from './look-file';
import { allSources, sourceNamed, type Source } from './sources';
import { takeIn } from './take-in';
import type { Looked } from './types';

/** The source of a district that has brought no roster by hand. */
const firstName = 'Student records';

/** The source that the watched folder belongs to: the one that was there first; none where no roster was ever brought. */
export const nightSource = async (db: Query): Promise<Source | undefined> =>
	(await allSources(db)).find((s) => s.kind === 'oneroster');

/**
 * Brings what lies in the watched folder: looked at like any other, and taken in by itself where it is
 * clean. Whatever else it is waits for somebody. The same content is brought once. Resolves to whether
 * it came in.
 */
export async function bringFrom(
	house: RosterHouse,
	folder: string,
	names: readonly string[]
): Promise<boolean> {
	const { db, dataFolder } = house;
	const source = (await nightSource(db)) ?? (await sourceNamed(db, firstName));
	await giveUpNightly(db, source.id);
	await clearAway(db, dataFolder);
	const { hash } = await contentOf(folder, names);
	if (await cameBefore(db, source.id, hash)) return false;
	const name = names.length === 1 ? names[0]! : `${names.length} tables`;
	const id = await addFile(db, dataFolder, source.id, name, null);
	for (const file of names)
		await copyFile(join(folder, file), join(tablesFolder(dataFolder, id), file));
	const last = await lastTaken(db, source.id);
	for (let left = tries; left > 0; left -= 1) {
		await changeFile(db, id, { state: 'looking' });
		await lookAt(
			house,
			id,
			() => {},
			(looked) => Promise.resolve(whyNotByItself(looked, last).length === 0 ? 'taking' : 'looked')
		);
		const row = await db.rows(rosterFile).one({ id }, ['state']);
		if (row?.state !== 'taking') return false;
		const taken = await takeIn(house, id, { user: null, typed: null }, () => {});
		if (taken.ok) return true;
	}
	await changeFile(db, id, { state: 'looked' });
	return false;
}

/** People and sections change while it is looked at only where somebody works at night. */
const tries = 3;

/** Whether the newest file of a source that was looked at had the same content. */
async function cameBefore(db: Query, sourceId: number, hash: string): Promise<boolean> {
	const newest = await db.one<{ hash: string }>(
		`SELECT hash FROM roster_file WHERE source_id = $sourceId AND hash IS NOT NULL
		ORDER BY id DESC LIMIT 1`,
		{ sourceId }
	);
	return newest?.hash === hash;
}

/** What looking at the newest file of a source that came in had come to. */
async function lastTaken(db: Query, sourceId: number): Promise<Looked | null> {
	const row = await db.one<{ looked: string }>(
		`SELECT looked FROM roster_file WHERE source_id = $sourceId AND state = 'taken' ORDER BY id DESC LIMIT 1`,
		{ sourceId }
	);
	return row ? (JSON.parse(row.looked) as Looked) : null;
}

/** Why a file does not come in by itself, as codes. */
export type Holds = 'first' | 'wrong' | 'questions' | 'too-much';

/**
 * What keeps a file from coming in by itself. Wrong lines that were wrong already in the last one that
 * somebody took in are known; new ones have to be seen. The first file of a source is for a person.
 */
export function whyNotByItself(looked: Looked, last: Looked | null): Holds[] {
	const known = new Set(last?.faults ?? []);
	const fresh = looked.faults === null ? true : looked.faults.some((fault) => !known.has(fault));
	return [
		...(last === null ? (['first'] as const) : []),
		...(fresh ? (['wrong'] as const) : []),
		...(looked.questions > 0 ? (['questions'] as const) : []),
		...(tooMuch(looked.shares, looked.mostShare).length > 0 ? (['too-much'] as const) : [])
	];
}
