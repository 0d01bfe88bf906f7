import { placeLocal } from '../../../core/time/local';
import { count } from '../../../core/copy/count';
import { userById } from '../../access/user';
import { now } from '../../clock';
import { timesOf } from '../../db/calendar';
import { isTouched } from '../../db/copy-state';
import type { District } from '../../db/district';
import type { Db } from '../../db/open';
import { countPast } from '../keep/past-keeping';
import { planSheet } from '../plan/plan-sheet';
import { eventOfDispatch } from '../sheet/departure';
import { sheetColumns, sheetOfRow, type SheetRow } from '../sheet/sheet-row';

/** What a change of the settings does to what is scheduled, and to whoever works here. */

const many = (n: number, one: string, more: string): string =>
	`${count(n)} ${n === 1 ? one : more}`;

/** Whether hours, days or pace differ: then copies that are planned leave at other times. */
const touchesTimes = (a: District, b: District): boolean =>
	JSON.stringify([a.quiet, a.quietDays, a.schoolWeekdays, a.pace]) !==
	JSON.stringify([b.quiet, b.quietDays, b.schoolWeekdays, b.pace]);

/** Whether what is scheduled has to be worked out again after a change. */
export const movesScheduled = (a: District, b: District): boolean =>
	a.zone !== b.zone || touchesTimes(a, b);

type Row = SheetRow & {
	readonly id: number;
	readonly senderId: number;
	readonly leavesAt: number;
	readonly endsAt: number | null;
	readonly eventAt: number | null;
};

/** Copies that would leave at another time, and those that would have none left, over all that is scheduled; planned twice, by the hours there are and by the others. */
async function shifted(db: Db, before: District, after: District): Promise<string[]> {
	const rows = await db.all<Row>(
		`SELECT id, ${sheetColumns}, sender_id AS senderId, leaves_at AS leavesAt, ends_at AS endsAt, ${eventOfDispatch} AS eventAt
		FROM dispatch WHERE state = 'scheduled' AND settled = 0 AND waits IS NULL AND written ORDER BY leaves_at`
	);
	const [was, is] = [await timesOf(db, before), await timesOf(db, after)];
	let [moved, dispatches, lost] = [0, 0, 0];
	for (const row of rows) {
		const user = await userById(db, row.senderId);
		if (!user) continue;
		const at = { at: row.leavesAt, endsAt: row.endsAt, eventAt: row.eventAt };
		const sheet = sheetOfRow(row);
		const old = (await planSheet(db, user, sheet, { ...at, times: was })).manifest;
		const made = (await planSheet(db, user, sheet, { ...at, times: is })).manifest;
		const dueAt = new Map(
			old.copies.map((copy, i) => [`${copy.personId} ${copy.way}`, old.dueAt[i]!])
		);
		const other = made.copies.filter((copy, i) => {
			const due = dueAt.get(`${copy.personId} ${copy.way}`);
			return due !== undefined && due !== made.dueAt[i];
		}).length;
		moved += other;
		lost += Math.max(0, old.copies.length - made.copies.length);
		if (other > 0) dispatches += 1;
	}
	return [
		moved === 0
			? 'No copy that is scheduled leaves at another time.'
			: `It shifts ${many(moved, 'copy', 'copies')} of ${many(dispatches, 'scheduled dispatch', 'scheduled dispatches')}.`,
		...(lost > 0
			? [
					`${many(lost, 'copy has', 'copies have')} no time left before ${lost === 1 ? 'its' : 'their'} end, and would not be sent.`
				]
			: [])
	];
}

/** What is planned by local time when the zone is another one. */
async function moved(db: Db, after: District): Promise<string[]> {
	const rows = await db.all<SheetRow & { n: number }>(
		`SELECT ${sheetColumns}, (SELECT count(*) FROM delivery WHERE dispatch_id = dispatch.id) AS n FROM dispatch
		WHERE state = 'scheduled' AND json_extract(timing, '$.when.kind') = 'at' AND NOT ${isTouched}`
	);
	const time = await now(db);
	const late = rows.filter((row) => {
		const { when } = sheetOfRow(row).timing;
		return when.kind === 'at' && placeLocal(when.at, after.zone).at < time;
	}).length;
	const copies = rows.reduce((sum, row) => sum + row.n, 0);
	const events = (await db.one<{ n: number }>(
		`SELECT count(*) AS n FROM school_event WHERE starts_at > $time AND state = 'on'`,
		{ time }
	))!.n;
	return [
		`${many(rows.length, 'scheduled dispatch moves', 'scheduled dispatches move')}, with ${many(copies, 'copy', 'copies')}, and ${many(events, 'event', 'events')}.`,
		...(late > 0
			? [
					`The time of ${many(late, 'dispatch', 'dispatches')} would be past: ${late === 1 ? 'it waits' : 'they wait'} for whoever sent ${late === 1 ? 'it' : 'them'}.`
				]
			: [])
	];
}

/** Whoever would have to set up a second factor before anything else opens. */
async function toSetUp(db: Db, before: District, after: District): Promise<string[]> {
	const fresh = after.factorFor.filter((role) => !before.factorFor.includes(role));
	if (fresh.length === 0) return [];
	const { n } = (await db.one<{ n: number }>(
		`SELECT count(DISTINCT role.person_id) AS n FROM role JOIN sign_in USING (person_id)
			LEFT JOIN second_factor ON second_factor.person_id = role.person_id AND confirmed_at IS NOT NULL
		WHERE closed_at IS NULL AND role IN (SELECT value FROM json_each($roles)) AND confirmed_at IS NULL
			AND starts_at <= $time AND (ends_at IS NULL OR ends_at > $time)`,
		{ roles: JSON.stringify(fresh), time: await now(db) }
	))!;
	return [
		`${many(n, 'person has', 'people have')} none yet, and ${n === 1 ? 'sets' : 'set'} one up before anything else opens.`
	];
}

/** Sessions that would end, since they were not used for so long. */
async function idleOut(db: Db, before: District, after: District): Promise<string[]> {
	if (after.idleHours >= before.idleHours) return [];
	const time = Date.now();
	const { n } = (await db.one<{ n: number }>(
		'SELECT count(*) AS n FROM session WHERE ends_at > $time AND seen_at > $was AND seen_at <= $will',
		{ time, was: time - before.idleHours * 3_600_000, will: time - after.idleHours * 3_600_000 }
	))!;
	return n === 0 ? [] : [`${many(n, 'session ends', 'sessions end')} at once.`];
}

/** What would go in the next night, and stays by the times there are. */
async function wouldGo(db: Db, before: District, after: District): Promise<string[]> {
	if (JSON.stringify(before.keeping) === JSON.stringify(after.keeping)) return [];
	const [was, is] = [await countPast(db, before), await countPast(db, after)];
	const more = {
		letters: is.letters - was.letters,
		evidence: is.evidence - was.evidence,
		addresses: is.addresses - was.addresses,
		answers: is.answers - was.answers
	};
	const parts = [
		...(more.letters > 0 ? [`the words of ${many(more.letters, 'letter', 'letters')}`] : []),
		...(more.evidence > 0 ? [`what was said in ${many(more.evidence, 'event', 'events')}`] : []),
		...(more.addresses > 0 ? [`the addresses of ${many(more.addresses, 'copy', 'copies')}`] : []),
		...(more.answers > 0 ? [many(more.answers, 'answer', 'answers')] : [])
	];
	return parts.length === 0
		? ['Nothing goes that would have stayed.']
		: [`In the next night these go as well, for good: ${parts.join(', ')}.`];
}

/** What a change does, in sentences. */
export async function effectsOf(
	db: Db,
	before: District,
	after: District
): Promise<readonly string[]> {
	return [
		...(before.zone === after.zone ? [] : await moved(db, after)),
		...(touchesTimes(before, after) ? await shifted(db, before, after) : []),
		...(await wouldGo(db, before, after)),
		...(await toSetUp(db, before, after)),
		...(await idleOut(db, before, after))
	];
}
