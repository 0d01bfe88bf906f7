import { machineSign } from '../../../core/track/visitor';
import { now } from '../../clock';
import type { Opened } from '../../access/private-link';
import { districtDay } from '../../db/district';
import type { Db } from '../../db/open';
import { letterHappened } from '../family/letter-happened';
import type { Visitor } from '../track/types';
import { placesOfPerson } from './places';
import { postsOn } from './posts';

/**
 * An announcement stood before the eyes of somebody on a board of theirs: evidence on the copies they have of it,
 * and written down as read there for whoever has none. False where it does not stand on a board of theirs now.
 */
export async function readOnBoard(
	db: Db,
	opened: Extract<Opened, { ok: true }>,
	dispatchId: number,
	visitor: Visitor
): Promise<boolean> {
	const time = await now(db);
	const { personId } = opened;
	const places = await placesOfPerson(db, personId, await districtDay(db));
	const stands = (await postsOn(db, places, time)).some(
		(p) => p.id === dispatchId && p.from <= time
	);
	if (!stands) return false;
	// A machine that looks through a mailbox follows links; it reads nothing.
	if (machineSign({ ...visitor, othersJustNow: 0 }) === null)
		await db.write((tx) =>
			tx.run(
				`INSERT OR IGNORE INTO board_read (dispatch_id, person_id, at) VALUES ($dispatchId, $personId, $time)`,
				{ dispatchId, personId, time: Math.round(time) }
			)
		);
	await letterHappened(db, opened, dispatchId, 'opened', visitor, 'stood open on a board');
	return true;
}
