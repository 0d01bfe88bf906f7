import { LRUCache } from 'lru-cache';
import {
	CoverageKept,
	type Coverage,
	type CoverageUnit,
	type CoverRule,
	type Homes
} from '../../../core/track/coverage';
import { groupBy } from '../../../core/group-by';
import { readMany } from '../../db/many';
import type { DispatchRow } from '../../db/models/dispatch';
import { newestEvent } from '../../db/newest-event';
import type { Query } from '../../db/open';
import { CopyCounts } from './copy-counts';
import {
	copiesIn,
	CopyOfStudent,
	deliveriesOf,
	inThese,
	speaksIn,
	standAnew,
	type Copy
} from './counted-copies';
import { homesOf } from './dispatch-homes';
import { planOf } from './plan-key';
import { LinksFollowed, linksIn, linksSince } from './links-followed';

/** Where a dispatch stands, and what its numbers count. */
export interface DispatchCoverage extends Coverage {
	readonly unit: CoverageUnit;
	readonly rule: CoverRule;
	/** What it is counted from, which goes on as evidence comes in: when each came to be covered, and whose standing has changed since. */
	readonly kept: CoverageKept;
	/** How often a standing had changed when it was counted. */
	readonly changes: number;
}

/** What is known of a dispatch's copies, and what it comes to. Kept for all who look: none of them changes it. */
export interface CountedDispatch {
	/** Changes with its copies and its rule. */
	readonly plan: string;
	/** By delivery. */
	readonly copies: ReadonlyMap<number, Copy>;
	readonly counts: CopyCounts;
	readonly links: LinksFollowed;
	/** Of whom the copies speak; of a dispatch about no student each person is as their own. */
	readonly deliveries: readonly CopyOfStudent[];
	/** Its students of whom no copy speaks. */
	readonly unspoken: readonly number[];
	readonly coverage: DispatchCoverage;
	/** Number of the newest event that is in it. */
	readonly event: number;
}

/** A {@link CountedDispatch} with what it is counted anew from. */
interface Counted extends CountedDispatch {
	event: number;
	evidence: number;
	coverage: DispatchCoverage;
}

/** Copies kept in memory at most, over all dispatches. */
const mostCopies = 600_000;
const kept = new WeakMap<Query, LRUCache<number, Counted>>();

/** Whether what had to be counted is kept: not by whoever goes through a whole term once, and would crowd out what is looked at. */
interface Keeping {
	readonly keep: boolean;
}

/**
 * Coverage of dispatches by their ids, each by its own rule. What was counted is kept; of a dispatch
 * with new evidence only the copies that it is about are read again. What does not exist is not in
 * the result.
 */
export async function coverageBy(
	db: Query,
	dispatchIds: readonly number[],
	keeping?: Keeping
): Promise<ReadonlyMap<number, DispatchCoverage>> {
	const counted = await countedBy(db, dispatchIds, keeping);
	return new Map([...counted].map(([id, { coverage }]) => [id, coverage]));
}

/** Dispatches by their ids with their copies; see {@link coverageBy}. */
export async function countedBy(
	db: Query,
	dispatchIds: readonly number[],
	{ keep }: Keeping = { keep: true }
): Promise<ReadonlyMap<number, CountedDispatch>> {
	const [rows, event] = await Promise.all([
		db.all<Row>(
			`SELECT id, cover AS rule, ${planOf} AS plan, evidence FROM dispatch
			WHERE id IN (SELECT value FROM json_each($ids))`,
			{ ids: JSON.stringify([...new Set(dispatchIds)]) }
		),
		// Before their copies are read: what comes meanwhile is taken in by the next look, if once more.
		newestEvent(db)
	]);
	let known = kept.get(db);
	if (!known) {
		known = new LRUCache({
			maxSize: mostCopies,
			sizeCalculation: ({ copies }) => Math.max(1, copies.size)
		});
		kept.set(db, known);
	}
	const result = new Map<number, CountedDispatch>();
	const fresh: Row[] = [];
	for (const row of rows) {
		const before = known.get(row.id);
		if (before?.plan !== row.plan) {
			fresh.push(row);
			continue;
		}
		if (before.evidence !== row.evidence) await catchUp(db, row.id, before, row.evidence);
		result.set(row.id, before);
	}
	for (const [id, counted] of await count(db, fresh, event)) {
		result.set(id, counted);
		if (keep) known.set(id, counted);
	}
	return result;
}

/**
 * Of whom some copies of a dispatch speak; of a dispatch about no student each is about whoever it goes to.
 * Asked for the few at hand: by copy the whole of a large dispatch would be grouped for one event.
 */
export async function spokenOf(
	db: Query,
	{ copies, coverage }: Pick<CountedDispatch, 'copies' | 'coverage'>,
	ids: readonly number[]
): Promise<ReadonlySet<number>> {
	if (coverage.unit === 'people')
		return new Set(ids.flatMap((id) => copies.get(id)?.personId ?? []));
	const rows = await db.all<{ id: number }>(
		`SELECT DISTINCT student_id AS id FROM delivery_student
		WHERE delivery_id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify(ids) }
	);
	return new Set(rows.map((r) => r.id));
}

/** Takes in what has happened to a dispatch since it was counted. */
async function catchUp(db: Query, id: number, counted: Counted, evidence: number): Promise<void> {
	const since = counted.event;
	const last = await newestEvent(db);
	const news = await standAnew(db, { id, since });
	const followed = await linksSince(db, { id, since });
	const students = await spokenOf(
		db,
		counted,
		news.map((n) => n.id)
	);
	// Another has taken in more meanwhile: what was read here is older than what stands.
	if (counted.event !== since && counted.event > last) return;
	const { copies, counts, coverage } = counted;
	for (const { id: copyId, ...stands } of news) {
		const copy = copies.get(copyId);
		if (!copy) continue;
		counts.takeOut(copy);
		counts.add(Object.assign(copy, stands));
	}
	for (const one of followed) counted.links.add(one);
	coverage.kept.countAnew(students);
	counted.event = last;
	counted.evidence = evidence;
	counted.coverage = given(coverage, coverage.kept);
}

/** Coverage as it stands now. */
const given = (
	{ unit, rule }: Pick<DispatchCoverage, 'unit' | 'rule'>,
	kept: CoverageKept
): DispatchCoverage => ({ ...kept.coverage, unit, rule, kept, changes: kept.changes });

type Row = Pick<DispatchRow, 'id' | 'evidence'> & { rule: CoverRule; plan: string };

const noHomes: Homes = () => [];

/** Counts some dispatches from their rows; `event` is one that their copies have taken in. */
async function count(
	db: Query,
	rows: readonly Row[],
	event: number
): Promise<Map<number, Counted>> {
	if (rows.length === 0) return new Map();
	const bind = { ids: JSON.stringify(rows.map((r) => r.id)) };
	// Asked for together: of one the rows are made while the engine finds those of the next.
	const [copies, speaks, abouts, followed] = await Promise.all([
		copiesIn(db, bind),
		speaksIn(db, bind),
		readMany(
			db,
			'dispatch_id, student_id',
			`FROM dispatch_student WHERE ${inThese}`,
			(values) => values as [number, number],
			bind
		),
		linksIn(db, bind.ids)
	]);
	const deliveries = deliveriesOf(copies, speaks);
	const students = groupBy(abouts, ([dispatchId]) => dispatchId);
	const links = groupBy(followed, (l) => l.dispatchId);
	const byDispatch = groupBy([...copies.values()], (copy) => copy.dispatchId);
	const result = new Map<number, Counted>();
	for (const { id, rule, plan, evidence } of rows) {
		const mine = byDispatch.get(id) ?? [];
		const about = (students.get(id) ?? []).map(([, student]) => student);
		// Staff among themselves, say: each is covered by their own reading.
		const people = about.length === 0 && mine.length > 0;
		const seen = people
			? mine.map((copy) => new CopyOfStudent(copy, copy.personId, [copy.personId], true))
			: (deliveries.get(id) ?? []);
		const spoken = new Set(seen.map((d) => d.studentId));
		const coverage = new CoverageKept(
			people ? [...spoken] : about,
			seen,
			people ? 'adult' : rule,
			rule === 'households' && !people ? await homesOf(db, id, seen) : noHomes
		);
		result.set(id, {
			...{ plan, evidence, event, deliveries: seen },
			copies: new Map(mine.map((copy) => [copy.id, copy])),
			counts: new CopyCounts(mine),
			links: new LinksFollowed(links.get(id)),
			unspoken: about.filter((student) => !spoken.has(student)),
			coverage: given({ unit: people ? 'people' : 'students', rule }, coverage)
		});
	}
	return result;
}
