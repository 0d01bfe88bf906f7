import { writeDown } from '../../access/log';
import { isDeepStrictEqual } from 'node:util';
import { count } from '../../../core/copy/count';
import { allCounted, tooMuch } from '../../../core/roster/counts';
import { isAllowed } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { personChange, rosterFile, rosterSource } from '../../db/models/rosters';
import type { Db, Query } from '../../db/open';
import { rosterChanged } from '../../db/roster';
import { Broken } from '../../reading/roster/broken';
import { groundsMark, withSaid, type Compared } from './compare';
import type { Said } from '../../said';
import { changeFile } from './files';
import { countsOf } from './count-changes';
import { historyOf } from './history';
import type { RosterHouse } from './house';
import { workOut, type Progress } from './look';
import { openFile } from './open-file';
import { followAddresses } from './follow-addresses';
import { lostBy } from './lost-ties';
import { stopWhatIsNotTheirs } from './not-theirs';
import { putDown } from './put-down';
import { keepUndo } from './undo';
import type { Looked } from './types';
import { rowCount } from './work';

/** What was looked at is no longer so: it has to be looked at again. */
class Moved extends Error {}

/** Who takes a roster in: somebody, who may have typed the number of changes, or (null) the night. */
export interface Taker {
	readonly user: User | null;
	/** The number that was typed, where it is too much at once. */
	readonly typed: number | null;
}

/** Whether a file may be taken in as it was seen; else why not. */
export function mayTake(looked: Looked, { typed }: Taker): Said<object> {
	const all = allCounted(looked.counts);
	const much = tooMuch(looked.shares, looked.mostShare);
	if (much.length > 0 && typed !== all) {
		const parts = much.map((s) => `${count(s.touched)} of ${count(s.known)} ${s.of}`);
		return {
			ok: false,
			why: `${parts.join(' and ')} would go or change, over ${Math.round(looked.mostShare * 100)} % at once. If that is meant, type ${all}.`
		};
	}
	return { ok: true };
}

/**
 * Takes a roster file in that was looked at: it is read and compared once more, and all of it is
 * written in one transaction, or nothing. Where people or sections have changed since it was looked
 * at, it goes back to be looked at, and nothing is written.
 */
export async function takeIn(
	house: RosterHouse,
	fileId: number,
	taker: Taker,
	progress: Progress
): Promise<Said<object>> {
	const { db } = house;
	if (taker.user && !isAllowed(taker.user, 'bring-roster'))
		return { ok: false, why: 'Rosters are the district office’s.' };
	const looked = await begin(db, fileId, taker);
	if (!looked.ok) return looked;
	try {
		const opened = await openFile(house, fileId);
		try {
			const { compared } = await workOut(house, opened, fileId, progress);
			const { counts } = countsOf(compared.done);
			if (
				compared.restsOn !== looked.looked.restsOn ||
				!isDeepStrictEqual(counts, looked.looked.counts)
			)
				throw new Moved();
			await write(db, fileId, compared, taker, progress);
		} finally {
			opened.close();
		}
		return { ok: true };
	} catch (error) {
		if (error instanceof Broken) {
			await changeFile(db, fileId, { state: 'refused', why: error.message });
			return { ok: false, why: error.message };
		}
		await changeFile(db, fileId, { state: error instanceof Moved ? 'looking' : 'looked' });
		if (!(error instanceof Moved)) throw error;
		return {
			ok: false,
			why: 'People or sections have changed since this was looked at. It is looked at again; nothing has come in.'
		};
	}
}

/** Marks a file as coming in, so that nobody else takes it in too. */
async function begin(
	db: Db,
	fileId: number,
	taker: Taker
): Promise<Said<{ readonly looked: Looked }>> {
	return db.write(async (tx) => {
		const row = await tx.rows(rosterFile).one({ id: fileId });
		// By night it is settled with the look itself whether it is taken in.
		const from = taker.user === null ? 'taking' : 'looked';
		if (row?.state !== from || row.looked === null)
			return {
				ok: false,
				why: 'This file has come in already, is coming in now, or was given up. Load the page again.'
			};
		const looked = JSON.parse(row.looked) as Looked;
		const fits = mayTake(looked, taker);
		if (!fits.ok) return fits;
		await changeFile(tx, fileId, { state: 'taking' });
		return { ok: true, looked };
	});
}

/** Writes everything down in one transaction. */
async function write(
	db: Db,
	fileId: number,
	compared: Compared,
	{ user }: Taker,
	progress: Progress
): Promise<void> {
	const { restsOn, today, nextTurn } = compared;
	const { sourceId } = (await db.rows(rosterFile).one({ id: fileId }, ['sourceId']))!;
	const work = withSaid(compared, sourceId);
	const all = rowCount(work) + 1;
	let rows = 0;
	progress(0.7, 'It comes in');
	await db.write(async (tx) => {
		if ((await groundsMark(tx, sourceId)) !== restsOn) throw new Moved();
		await putDown(tx, work, (more) => progress(0.7 + (0.25 * (rows += more)) / all, 'It comes in'));
		await keepUndo(tx, fileId, sourceId, work);
		await follow(tx, compared, { fileId, byId: user?.personId ?? null });
		await tx.rows(rosterSource).change({ id: sourceId }, { appliedOn: today, nextTurn });
		await writeDown(tx, {
			...{ act: 'roster-taken-in', by: user, to: ['roster', fileId] },
			after: { rows: rowCount(work) }
		});
		await changeFile(tx, fileId, {
			state: 'taken',
			takenAt: Math.round(await now(tx)),
			takenBy: user?.personId ?? null
		});
	});
}

/** What changed rows ask for: logs of people, copies that are no longer theirs, and who holds the roster in memory. */
export async function follow(
	tx: Query,
	compared: Pick<Compared, 'work' | 'done'>,
	by: { readonly fileId: number | null; readonly byId: number | null }
): Promise<void> {
	const at = Math.round(await now(tx));
	await tx.rows(personChange).addMany(historyOf(compared).map((line) => ({ ...line, ...by, at })));
	await stopWhatIsNotTheirs(tx, lostBy(compared.work));
	await followAddresses(tx, compared.work);
	await rosterChanged(tx);
}
