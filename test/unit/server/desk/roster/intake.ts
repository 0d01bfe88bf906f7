import type { Db } from '../../../../../src/lib/server/db/open';
import { rosterFile, type RosterFileRow } from '../../../../../src/lib/server/db/models/rosters';
import { addFile, changeFile } from '../../../../../src/lib/server/desk/roster/files';
import { lookAt } from '../../../../../src/lib/server/desk/roster/look';
import { tablesFolder } from '../../../../../src/lib/server/desk/roster/look-file';
import { sourceNamed } from '../../../../../src/lib/server/desk/roster/sources';
import { takeIn } from '../../../../../src/lib/server/desk/roster/take-in';
import type { Looked } from '../../../../../src/lib/server/desk/roster/types';
import { coordinator } from '../../database';
import { putLoose, type Tables } from './roster-files';

export const testKey = Buffer.alloc(32, 7);

/** A roster file as it is after it was looked at. */
export interface LookedFile {
	readonly id: number;
	readonly row: RosterFileRow;
	readonly looked: Looked;
}

/** Brings tables as loose files and looks at them. */
export async function look(
	{ db, folder }: { readonly db: Db; readonly folder: string },
	tables: Tables,
	{ source = 'Harbor Office' } = {}
): Promise<LookedFile> {
	const { id: sourceId } = await sourceNamed(db, source);
	const id = await addFile(db, folder, sourceId, 'roster.zip', coordinator.personId);
	putLoose(tablesFolder(folder, id), tables);
	return lookAgain({ db, folder }, id);
}

/** Looks at what lies in the folder of a file. */
export async function lookAgain(
	{ db, folder }: { readonly db: Db; readonly folder: string },
	id: number
): Promise<LookedFile> {
	await db.write((tx) => changeFile(tx, id, { state: 'looking' }));
	await lookAt({ db, dataFolder: folder, key: testKey }, id, () => {});
	const row = (await db.rows(rosterFile).one({ id }))!;
	return {
		id,
		row,
		looked: row.looked === null ? (null as never) : (JSON.parse(row.looked) as Looked)
	};
}

/** Brings tables, looks at them and takes them in; fails where they are refused. */
export async function bring(
	house: { readonly db: Db; readonly folder: string },
	tables: Tables,
	typed: number | null = null
): Promise<LookedFile> {
	const file = await look(house, tables);
	if (file.row.state !== 'looked') throw new Error(file.row.why ?? file.row.state);
	const taken = await takeIn(
		{ db: house.db, dataFolder: house.folder, key: testKey },
		file.id,
		{ user: coordinator, typed },
		() => {}
	);
	if (!taken.ok) throw new Error(taken.why);
	return file;
}

/** Every row that a roster is put down in, as text: what is compared to see that nothing is left behind. */
export async function everything(db: Db): Promise<Record<string, unknown[]>> {
	const all: Record<string, unknown[]> = {};
	for (const table of [
		'school',
		'term',
		'course',
		'section',
		'person',
		'address',
		'household',
		'household_member',
		'staff',
		'contact',
		'enrolment',
		'section_staff',
		'group_member',
		'declined',
		'own_time',
		'roster_line',
		'known_as'
	])
		all[table] = (await db.all(`SELECT * FROM ${table}`)).map((row) => JSON.stringify(row)).sort();
	return all;
}
