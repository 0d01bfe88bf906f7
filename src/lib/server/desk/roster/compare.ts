import type { Book, Came } from '../../../core/format/oneroster/book';
import { lookUp } from '../../../core/format/oneroster/look-up';
import type { Fault } from '../../../core/format/oneroster/fault';
import { differenceOf, type Change } from '../../../core/roster/difference';
import { nextTurn, thingsOf } from '../../../core/roster/from-oneroster';
import type { Things } from '../../../core/roster/things';
import { now } from '../../clock';
import { districtDay, readDistrict } from '../../db/district';
import type { RosterSourceRow } from '../../db/models/rosters';
import type { Db, Query } from '../../db/open';
import { readHere } from './here';
import { Known } from './known';
import type { CustodySaid } from './grounds';
import { numberedTables, planWork, type Done } from './plan-work';
import { findOwnRows } from './own-keys';
import { findSameHomes } from './same-homes';
import { placeStudents } from './listed-students';
import { findSameContacts } from './same-contacts';
import { stoppedNumbers } from '../../db/said-stop';
import { findSamePeople } from './same-people';
import { findSamePlaces } from './same-places';
import { readSaid, saidWork } from './said';
import type { Question } from './types';
import type { Work } from './work';

/** What a file comes to against what is here: everything that is shown, and everything that would be written. */
export interface Compared {
	readonly before: Things;
	readonly after: Things;
	readonly changes: readonly Change[];
	readonly done: readonly Done[];
	/** What is to be done in rows, but for the lines that the source has said: see {@link withSaid}. */
	readonly work: Work;
	/** What the source said before, and from now on. */
	readonly said: { readonly before: Book; readonly after: Book };
	/** Students whom a contact list names, by the keys under which it does. */
	readonly studentNames: ReadonlyMap<string, string>;
	/** Wrong lines that show only when they are looked up. */
	readonly faults: readonly Fault[];
	readonly questions: readonly Omit<Question, 'inFile'>[];
	/** Day of the district for which it was worked out, and the next one on which something begins or ends. */
	readonly today: string;
	readonly nextTurn: string | null;
	/** What it rests on; where this is another, it has to be compared again. */
	readonly restsOn: string;
}

/**
 * What a comparison rests on: people and how they belong together, and what was said before. Addresses
 * change with every bounce; whatever is written leaves them as they are by then.
 */
export async function groundsMark(db: Query, sourceId: number): Promise<string> {
	const row = (await db.one<{ mark: string }>(
		`SELECT coalesce((SELECT max(version) FROM roster_change WHERE person_id IS NULL), 0) || ' ' ||
			(SELECT coalesce(max(changed_at), 0) FROM roster_file WHERE source_id = $sourceId AND state IN ('taken', 'taken-back')) || ' ' ||
			(SELECT count(*) FROM same_or_other WHERE source_id = $sourceId) || ' ' ||
			coalesce((SELECT applied_on FROM roster_source WHERE id = $sourceId), '') AS mark`,
		{ sourceId }
	))!;
	return row.mark;
}

type Source = Pick<RosterSourceRow, 'id' | 'appliedOn' | 'kind' | 'name'>;

/**
 * Compares what came with what the source said before and with what is here. `came` of nothing is a
 * new day: who is enrolled may be others.
 */
export async function compare(
	db: Db,
	secret: Buffer,
	source: Source,
	came: Came,
	custody: CustodySaid
): Promise<Compared> {
	const restsOn = await groundsMark(db, source.id);
	const { language } = await readDistrict(db);
	const time = await now(db);
	const today = await districtDay(db);
	const said = await readSaid(db, source.id);
	const known = await Known.read(db, source.id);
	const placed = await placeStudents(db, came, known, secret);
	const { book, faults } = lookUp(said, placed.came);
	const before = thingsOf(said, source.appliedOn ?? today);
	const after = thingsOf(book, today);
	const all = differenceOf(before, after);
	await findOwnRows(db, secret, all, known);
	await findSamePlaces(db, all, known);
	const ties = await findSameContacts(db, source.id, all, after, known);
	const tied = new Set(ties.map((q) => `${q.key} ${q.here.personId}`));
	const questions = [
		...ties,
		...(await findSamePeople(db, source.id, all, known)).filter(
			(q) => !tied.has(`${q.key} ${q.here.personId}`)
		)
	];
	const changes = await findSameHomes(db, all, after, known);
	const { work, done } = planWork(changes, {
		sourceId: source.id,
		known,
		rows: await readHere(db, changes, known),
		after,
		free: await freeNumbers(db),
		custody,
		list: source.kind === 'list' ? source.name : null,
		stopped: await stoppedNumbers(db),
		language,
		now: Math.round(time),
		shortNames: new Set(
			(await db.all<{ name: string }>('SELECT short_name AS name FROM school')).map((r) => r.name)
		)
	});
	for (const { kind, key, id } of known.bound)
		work.known_as.put.push({ source_id: source.id, kind, key, row_id: id });
	return {
		before,
		after,
		changes,
		done,
		work,
		said: { before: said, after: book },
		faults: [...placed.faults, ...faults],
		studentNames: placed.names,
		questions,
		today,
		nextTurn: nextTurn(book, today),
		restsOn
	};
}

/** All work of a comparison: with the lines that the source has said, which only what is written down needs. */
export const withSaid = ({ work, said }: Compared, sourceId: number): Work => ({
	...work,
	roster_line: saidWork(sourceId, said.before, said.after)
});

async function freeNumbers(db: Query) {
	const free = {} as Record<(typeof numberedTables)[number], number>;
	for (const table of numberedTables)
		free[table] = (await db.one<{ id: number }>(
			`SELECT coalesce(max(id), 0) + 1 AS id FROM ${table}`
		))!.id;
	return free;
}
