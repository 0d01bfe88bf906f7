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
import { readMany } from '../../db/many';
import type { Query } from '../../db/open';
import { copiesIn, deliveriesIn, inThese, type Copy } from './counted-copies';
import { homesOf } from './dispatch-homes';
import { groupBy } from '../../../core/group-by';
import type { DispatchRow } from '../../db/models/dispatch';
import type { DeliveryRow } from '../../db/models/delivery';

/** Where a dispatch stands, and what its numbers count. */
export interface DispatchCoverage extends Coverage {
	readonly unit: CoverageUnit;
	readonly rule: CoverRule;
	/** When each of them came to be covered (instant, ms); Infinity for those who are not. Worked out when it is asked for. */
	times(): ReadonlyMap<number, number>;
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
