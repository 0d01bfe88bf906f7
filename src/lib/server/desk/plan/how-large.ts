import { isPeopleLine, type Audience } from '../../../core/audience/audience';
import { picksBringing } from '../../../core/audience/named';
import { atMost } from '../../../core/audience/students';
import type { Db } from '../../db/open';
import { readRoster } from '../../db/roster';

/** Planning more people than this takes long enough to be felt by whoever asks meanwhile (about 100 ms for each thousand). */
const many = 3_000;

/** How many rows name some things, by their ids. */
async function counted(db: Db, sql: string, ids: readonly number[]): Promise<number> {
	const row = await db.one<{ n: number }>(
		`SELECT count(*) AS n FROM ${sql} IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify(ids) }
	);
	return row!.n;
}

/** Whether looking at every family takes as long: whom somebody sees is not looked at, the rows of all are read first. */
export const isLargeDistrict = async (db: Db): Promise<boolean> =>
	(await db.one<{ n: number }>(`SELECT count(*) AS n FROM person_now WHERE kind = 'student'`))!.n >
	many;

/**
 * Whether working an audience out may be bulk work. It is asked before anything is resolved, of whatever a
 * browser sends, and so costs no more than there are picks; it never says too few.
 */
export async function isLarge(db: Db, audience: Audience): Promise<boolean> {
	const roster = await readRoster(db);
	let people = 0;
	const earlier: number[] = [];
	const lists: number[] = [];
	const joined: number[] = [];
	for (const line of audience.lines) {
		if (line.verb === 'but-not') continue;
		if (!isPeopleLine(line)) {
			people += atMost(roster, line.of);
			earlier.push(...picksBringing(line.of).flatMap((p) => (p.kind === 'uncovered' ? p.ids : [])));
		} else if (line.people.kind === 'list') lists.push(line.people.keptId);
		else if (line.people.kind === 'joined') joined.push(...line.people.groupIds);
		else if (line.people.kind === 'named') people += line.people.ids.length;
		else people += roster.staffRoles().length;
	}
	if (people <= many && earlier.length > 0)
		people += await counted(db, 'dispatch_student WHERE dispatch_id', earlier);
	if (people <= many && lists.length > 0)
		people += await counted(db, 'kept_person WHERE kept_id', lists);
	if (people <= many && joined.length > 0)
		people += await counted(db, 'joining WHERE group_id', joined);
	return people > many;
}
