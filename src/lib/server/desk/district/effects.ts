import { isDeepStrictEqual } from 'node:util';
import { clocksMark, zoneOf, type Clocks } from '../../../core/time/clocks';
import { placeLocal } from '../../../core/time/local';
import { count } from '../../../core/copy/count';
import { userById } from '../../access/user';
import { now } from '../../clock';
import { eventColumns, eventZones, timesOf, toEvent, type EventRow } from '../../db/calendar';
import { clocksOf } from '../../db/school-own';
import { isTouched } from '../../db/copy-state';
import type { District } from '../../db/district';
import type { Settled } from './settled';
import type { Db } from '../../db/open';
import { countPast } from '../keep/past-keeping';
import { planSheet } from '../plan/plan-sheet';
import { eventOfDispatch } from '../sheet/departure';
import { sheetColumns, sheetOfRow, type SheetRow } from '../sheet/sheet-row';

/** What a change of the settings does to what is scheduled, and to whoever works here. */

const many = (n: number, one: string, more: string): string =>
	`${count(n)} ${n === 1 ? one : more}`;

const clocksIn = ({ district, schools }: Settled): Clocks => clocksOf(district, schools);

/** Whether hours, days or pace differ: then copies that are planned leave at other times. */
function touchesTimes(a: Settled, b: Settled): boolean {
	const marked = ({ district, schools }: Settled) => [
		...[district.quiet, district.quietDays, district.schoolWeekdays, district.pace],
		[...schools].filter(([, { quiet }]) => quiet !== null).map(([id, { quiet }]) => [id, quiet])
	];
	return !isDeepStrictEqual(marked(a), marked(b));
}
const touchesZones = (a: Settled, b: Settled): boolean =>
	!isDeepStrictEqual(clocksMark(clocksIn(a)), clocksMark(clocksIn(b)));

/** Whether what is scheduled has to be worked out again after a change. */
export const movesScheduled = (a: Settled, b: Settled): boolean =>
	touchesZones(a, b) || touchesTimes(a, b);

type Row = SheetRow & {
	readonly id: number;
	readonly senderId: number;
	readonly leavesAt: number;
	readonly endsAt: number | null;
	readonly eventAt: number | null;
};

/** Copies that would leave at another time, and those that would have none left, over all that is scheduled; planned twice, by the hours there are and by the others. */
async function shifted(db: Db, before: Settled, after: Settled): Promise<string[]> {
	const rows = await db.all<Row>(
		`SELECT id, ${sheetColumns}, sender_id AS senderId, leaves_at AS leavesAt, ends_at AS endsAt, ${eventOfDispatch} AS eventAt
		FROM dispatch WHERE state = 'scheduled' AND settled = 0 AND waits IS NULL AND written ORDER BY leaves_at`
	);
	const [was, is] = [
		await timesOf(db, before.district, before.schools),
		await timesOf(db, after.district, after.schools)
	];
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

/** What is planned by local time when the zone of its clock is another one. */
async function moved(db: Db, before: Settled, after: Settled): Promise<string[]> {
	const [was, is] = [clocksIn(before), clocksIn(after)];
	const rows = (
		await db.all<SheetRow & { n: number }>(
			`SELECT ${sheetColumns}, (SELECT count(*) FROM delivery WHERE dispatch_id = dispatch.id) AS n FROM dispatch
			WHERE state = 'scheduled' AND json_extract(timing, '$.when.kind') = 'at' AND NOT ${isTouched}`
		)
	).filter((row) => {
		const { clock } = sheetOfRow(row).timing;
		return zoneOf(was, clock) !== zoneOf(is, clock);
	});
	const time = await now(db);
	const late = rows.filter((row) => {
		const { when, clock } = sheetOfRow(row).timing;
		return when.kind === 'at' && placeLocal(when.at, zoneOf(is, clock)).at < time;
	}).length;
	const copies = rows.reduce((sum, row) => sum + row.n, 0);
	const [zoneWas, zoneIs] = [await eventZones(db, was), await eventZones(db, is)];
	const events = (
		await db.all<EventRow>(
			`SELECT ${eventColumns} FROM school_event WHERE starts_at > $time AND state = 'on'`,
			{ time }
		)
	).filter((row) => {
		const event = toEvent(row);
		return zoneWas(event) !== zoneIs(event);
	}).length;
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
	before: Settled,
	after: Settled
): Promise<readonly string[]> {
	const [was, is] = [before.district, after.district];
	return [
		...(touchesZones(before, after) ? await moved(db, before, after) : []),
		// Another zone of a school is another quiet for its families; another one of the district moves the hours with the copies.
		...(touchesTimes(before, after) || (was.zone === is.zone && touchesZones(before, after))
			? await shifted(db, before, after)
			: []),
		...(was.country === is.country
			? []
			: ['Numbers that are here stay as they are; those that come from now on are read so.']),
		...(await wouldGo(db, was, is)),
		...(await toSetUp(db, was, is)),
		...(await idleOut(db, was, is))
	];
}
