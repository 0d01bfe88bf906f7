import { districtDay } from '../../db/district';
import { rosterSource } from '../../db/models/rosters';
import type { Db } from '../../db/open';
import { compare, groundsMark, withSaid } from './compare';
import type { RosterHouse } from './house';
import { putDown } from './put-down';
import { allSources, type Source } from './sources';
import { follow } from './take-in';
import { keepMoreUndo } from './undo';

/** The sources in which something begins or ends by today, ISO date. */
const due = (sources: readonly Source[], today: string): Source[] =>
	sources.filter((s) => s.nextTurn !== null && s.nextTurn <= today);

/** Whether a new day has changed who is enrolled, by what sources have said of beginnings and ends. */
export async function dayHasTurned(db: Db): Promise<boolean> {
	const sources = await allSources(db);
	return sources.length > 0 && due(sources, await districtDay(db)).length > 0;
}

/**
 * Follows a new day: enrolments and roles that begin come in, those that end go, as the newest files
 * have said. It is what the file said, and so is not taken back by itself. Resolves to how many
 * sources had something.
 */
export async function turnDay({ db, key }: Pick<RosterHouse, 'db' | 'key'>): Promise<number> {
	const sources = due(await allSources(db), await districtDay(db));
	for (const source of sources) {
		const compared = await compare(db, key, source, {}, source.custody);
		const work = withSaid(compared, source.id);
		await db.write(async (tx) => {
			// A file came in meanwhile: it was worked out for today as well.
			if ((await groundsMark(tx, source.id)) !== compared.restsOn) return;
			await putDown(tx, work);
			await keepMoreUndo(tx, source.id, work);
			if (compared.done.length > 0) await follow(tx, compared, { fileId: null, byId: null });
			await tx
				.rows(rosterSource)
				.change({ id: source.id }, { appliedOn: compared.today, nextTurn: compared.nextTurn });
		});
	}
	return sources.length;
}
