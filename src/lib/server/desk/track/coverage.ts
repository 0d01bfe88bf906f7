import { LRUCache } from 'lru-cache';
import {
	asOwn,
	coverageOf,
	coveredTimes,
	type Coverage,
	type CoverageUnit,
	type CoverRule,
	type Homes,
	type StudentDelivery
} from '../../../core/track/coverage';
import type { DeliveryState } from '../../../core/track/evidence';
import { readMany } from '../../db/many';
import type { Query } from '../../db/open';
import { groupBy } from '../../../core/group-by';
import type { DispatchRow, LeftOutRow, LeftOutStudentRow } from '../../db/models/dispatch';
import type { DeliveryAlsoRow, DeliveryRow } from '../../db/models/delivery';
import type { HouseholdMemberRow } from '../../db/models/roster';

/** Where a dispatch stands, and what its numbers count. */
export interface DispatchCoverage extends Coverage {
	readonly unit: CoverageUnit;
	readonly rule: CoverRule;
	/** When each of them came to be covered (instant, ms); Infinity for those who are not. Worked out when it is asked for. */
	times(): ReadonlyMap<number, number>;
}

/** A copy as coverage sees it; what evidence changes of it is changed in place. */
interface Copy {
	readonly personId: number;
	readonly adult: boolean;
	state: DeliveryState;
	readAt: number | null;
}

/** All that is known of a dispatch's copies. */
interface Counted {
	/** Changes with its copies and its rule. */
	readonly plan: string;
	readonly rule: CoverRule;
	readonly copies: ReadonlyMap<number, Copy>;
	readonly deliveries: readonly StudentDelivery[];
	readonly students: readonly number[];
	readonly homes: Homes;
	/** Number of the newest event that is in it. */
	lastEvent: number;
	evidence: number;
	coverage: DispatchCoverage;
}

/** Copies kept in memory at most, over all dispatches. */
const mostCopies = 600_000;
const kept = new WeakMap<Query, LRUCache<number, Counted>>();

/**
 * Coverage of dispatches by their ids, each by its own rule. What was counted is kept; of a dispatch
 * with new evidence only the copies that it is about are read again. What does not exist is not in
 * the result.
 */
export async function coverageBy(
	db: Query,
	dispatchIds: readonly number[]
): Promise<ReadonlyMap<number, DispatchCoverage>> {
	const rows = await db.all<
		Pick<DispatchRow, 'id' | 'evidence'> & { rule: DispatchRow['cover']; plan: string }
	>(
		`SELECT id, cover AS rule, plan || ' ' || cover AS plan, evidence FROM dispatch
		WHERE id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify([...new Set(dispatchIds)]) }
	);
	let known = kept.get(db);
	if (!known) {
		known = new LRUCache({
			maxSize: mostCopies,
			sizeCalculation: ({ copies }) => Math.max(1, copies.size)
		});
		kept.set(db, known);
	}
	const result = new Map<number, DispatchCoverage>();
	const fresh: typeof rows = [];
	for (const row of rows) {
		const before = known.get(row.id);
		if (before?.plan !== row.plan) {
			fresh.push(row);
			continue;
		}
		if (before.evidence !== row.evidence) await catchUp(db, row.id, before, row.evidence);
		result.set(row.id, before.coverage);
	}
	for (const [id, counted] of await count(db, fresh)) {
		result.set(id, counted.coverage);
		known.set(id, counted);
	}
	return result;
}

/** Takes in what has happened to a dispatch since it was counted. */
async function catchUp(db: Query, id: number, counted: Counted, evidence: number): Promise<void> {
	const last = await newestEvent(db);
	const changed = await db.all<Pick<DeliveryRow, 'id' | 'state' | 'readAt'>>(
		`SELECT id, state, read_at AS readAt FROM delivery WHERE dispatch_id = $id
			AND id IN (SELECT delivery_id FROM event WHERE id > $since)`,
		{ id, since: counted.lastEvent }
	);
	for (const { id: copyId, state, readAt } of changed) {
		const copy = counted.copies.get(copyId);
		if (copy) Object.assign(copy, { state, readAt });
	}
	counted.lastEvent = last;
	counted.evidence = evidence;
	counted.coverage = coverageFrom(counted);
}

const newestEvent = async (db: Query): Promise<number> =>
	(await db.one<{ id: number }>('SELECT coalesce(max(id), 0) AS id FROM event'))!.id;

function coverageFrom({
	students,
	copies,
	deliveries,
	rule,
	homes
}: Omit<Counted, 'coverage'>): DispatchCoverage {
	const people = students.length === 0 ? [...copies.values()] : [];
	const [ids, seen, by]: [readonly number[], readonly StudentDelivery[], CoverRule] =
		people.length > 0
			? [[...new Set(people.map((c) => c.personId))], asOwn(people), 'adult']
			: [students, deliveries, rule];
	let times: Map<number, number> | null = null;
	return {
		...coverageOf(ids, seen, by, homes),
		unit: people.length > 0 ? 'people' : 'students',
		rule,
		times: () => (times ??= coveredTimes(ids, seen, by, homes))
	};
}

type Row = { id: number; rule: CoverRule; plan: string; evidence: number };

/** Which dispatches are counted, as a condition and its bind. */
const inThese = 'dispatch_id IN (SELECT value FROM json_each($ids))';
type These = { readonly ids: string };

/** The copies of some dispatches, by delivery. */
async function copiesIn(
	db: Query,
	bind: These
): Promise<Map<number, Copy & { readonly dispatchId: number }>> {
	return new Map(
		await readMany(
			db,
			'id, dispatchId, personId, state, readAt, kind',
			`FROM (SELECT delivery.id, dispatch_id AS dispatchId, person_id AS personId, state,
				read_at AS readAt, kind FROM delivery JOIN person ON person.id = person_id WHERE ${inThese})`,
			([id, dispatchId, personId, state, readAt, kind]) =>
				[
					id as number,
					{
						dispatchId: dispatchId as number,
						personId: personId as number,
						state: state as DeliveryState,
						readAt: readAt as number | null,
						adult: kind === 'adult'
					}
				] as const,
			bind
		)
	);
}

/** Of whom the copies speak and by whom they are read, by dispatch; each follows its copy's state. */
async function deliveriesIn(
	db: Query,
	bind: These,
	copies: ReadonlyMap<number, Copy & { readonly dispatchId: number }>
): Promise<Map<number, StudentDelivery[]>> {
	const also = groupBy(
		await db.all<
			Pick<DeliveryAlsoRow, 'personId'> & { id: DeliveryAlsoRow['deliveryId']; adult: number }
		>(
			`SELECT delivery_id AS id, delivery_also.person_id AS personId, kind = 'adult' AS adult
			FROM delivery_also JOIN delivery ON delivery.id = delivery_id
			JOIN person ON person.id = delivery_also.person_id WHERE ${inThese}`,
			bind
		),
		(a) => a.id
	);
	const pairs = await readMany(
		db,
		'id, studentId',
		`FROM (SELECT delivery_id AS id, student_id AS studentId FROM delivery_student
			JOIN delivery ON delivery.id = delivery_id WHERE ${inThese})`,
		(values) => values as [number, number],
		bind
	);
	const deliveries = new Map<number, StudentDelivery[]>();
	for (const [id, studentId] of pairs) {
		const copy = copies.get(id)!;
		const others = also.get(id);
		let list = deliveries.get(copy.dispatchId);
		if (!list) deliveries.set(copy.dispatchId, (list = []));
		list.push({
			studentId,
			toAdult: copy.adult || (others?.some((o) => o.adult === 1) ?? false),
			readers: others ? [copy.personId, ...others.map((o) => o.personId)] : [copy.personId],
			get state() {
				return copy.state;
			},
			get readAt() {
				return copy.readAt;
			}
		});
	}
	return deliveries;
}

/** Counts some dispatches from their rows. */
async function count(db: Query, rows: readonly Row[]): Promise<Map<number, Counted>> {
	if (rows.length === 0) return new Map();
	const bind = { ids: JSON.stringify(rows.map((r) => r.id)) };
	const lastEvent = await newestEvent(db);
	const copies = await copiesIn(db, bind);
	const deliveries = await deliveriesIn(db, bind, copies);
	const students = groupBy(
		await readMany(
			db,
			'dispatch_id, student_id',
			`FROM dispatch_student WHERE ${inThese}`,
			(values) => values as [number, number],
			bind
		),
		([dispatchId]) => dispatchId
	);
	const byDispatch = groupBy(copies, ([, c]) => c.dispatchId);
	const result = new Map<number, Counted>();
	for (const { id, rule, plan, evidence } of rows) {
		const mine = deliveries.get(id) ?? [];
		const counted = {
			plan,
			rule,
			evidence,
			lastEvent,
			copies: new Map(byDispatch.get(id) ?? []),
			deliveries: mine,
			students: (students.get(id) ?? []).map(([, student]) => student),
			homes: rule === 'households' ? await homesOf(db, id, mine) : () => []
		};
		result.set(id, { ...counted, coverage: coverageFrom(counted) });
	}
	return result;
}

/** Reasons by which a person was never meant to be written to for a student. */
const notMeant = JSON.stringify([
	'no-custody',
	'no-correspondence',
	'by-hand',
	'by-line',
	'not-on-roster',
	'no-longer-tied'
]);

/** Of each student of a dispatch, the adults of each household who were meant, reached or not. */
async function homesOf(
	db: Query,
	dispatchId: number,
	deliveries: readonly StudentDelivery[]
): Promise<Homes> {
	const meant = new Map<number, Set<number>>();
	const add = (studentId: number, personId: number) => {
		let people = meant.get(studentId);
		if (!people) meant.set(studentId, (people = new Set()));
		people.add(personId);
	};
	for (const d of deliveries) d.readers.forEach((id) => add(d.studentId, id));
	const leftOut = await db.all<Pick<LeftOutStudentRow, 'studentId'> & Pick<LeftOutRow, 'personId'>>(
		`SELECT student_id AS studentId, person_id AS personId
		FROM left_out JOIN left_out_student ON left_out_id = left_out.id
		WHERE dispatch_id = $id AND NOT EXISTS (SELECT 1 FROM json_each(reasons) AS reason
			WHERE reason.value ->> 'code' IN (SELECT value FROM json_each($notMeant)))`,
		{ id: dispatchId, notMeant }
	);
	for (const { studentId, personId } of leftOut) add(studentId, personId);
	const members = groupBy(
		await db.all<
			Pick<HouseholdMemberRow, 'householdId' | 'personId'> & {
				studentId: HouseholdMemberRow['personId'];
			}
		>(
			`SELECT mine.person_id AS studentId, mine.household_id AS householdId, other.person_id AS personId
			FROM dispatch_student JOIN household_member AS mine ON mine.person_id = student_id
			JOIN household_member AS other ON other.household_id = mine.household_id
			JOIN person ON person.id = other.person_id AND kind = 'adult'
			WHERE dispatch_id = $id`,
			{ id: dispatchId }
		),
		(m) => m.studentId
	);
	return (studentId) => {
		const people = meant.get(studentId) ?? new Set();
		return [...groupBy(members.get(studentId) ?? [], (m) => m.householdId).values()].map((home) =>
			home.map((m) => m.personId).filter((id) => people.has(id))
		);
	};
}
