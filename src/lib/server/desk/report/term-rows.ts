import { isCovered } from '../../../core/track/coverage';
import type { Way } from '../../../core/roster/way';
import { rowSet } from '../../db/many';
import type { Query } from '../../db/open';
import { coverageBy } from '../track/coverage';
import type { Covered, WaySum } from '../../../core/track/report-sums';

/** A dispatch of the term, with the week in which it left. */
export interface ReportDispatch {
	readonly id: number;
	readonly leavesAt: number;
	readonly week: string;
}

// Which of two tables is gone through first is said (CROSS JOIN, sqlite.org/optoverview.html section 8.2): dispatches are few.
const weekRows = rowSet('$weeks', ['id', 'week']);
/** Copies about some students: asked once for all copies, and not of each; of everybody a copy is theirs that is about anybody. */
const theirs = ({ everybody }: AskedRows): string =>
	everybody
		? 'EXISTS (SELECT 1 FROM delivery_student WHERE delivery_id = delivery.id)'
		: `delivery.id IN (SELECT delivery_id FROM delivery_student
			WHERE student_id IN (SELECT value FROM json_each($students)))`;

/** What is asked of rows: the dispatches with their weeks, and the students of whom it is; whether these are all that there ever were. */
interface AskedRows {
	readonly dispatches: readonly ReportDispatch[];
	readonly students: readonly number[];
	readonly everybody: boolean;
}
const bindOf = ({ dispatches, students, everybody }: AskedRows) => ({
	weeks: weekRows.json(dispatches.map(({ id, week }) => ({ id, week }))),
	...(everybody ? {} : { students: JSON.stringify(students) })
});

/** Copies that left about some students, by week and way. */
export const copiesByWeek = (
	db: Query,
	asked: AskedRows
): Promise<(WaySum & { week: string; way: Way; parts: number; partsUnknown: number })[]> =>
	db.all(
		`SELECT week, way, count(*) AS copies, sum(state != 'failed') AS arrived, sum(read_at IS NOT NULL) AS read,
			coalesce(sum(parts), 0) AS parts, sum(way = 'text' AND parts IS NULL) AS partsUnknown
		FROM ${weekRows.table} AS asked CROSS JOIN delivery ON dispatch_id = asked.id
		WHERE left_at IS NOT NULL AND ${theirs(asked)} GROUP BY week, way`,
		bindOf(asked)
	);

/** What came to homes, by week: a dispatch of which a copy left for somebody there about one of the students is one message. */
export const homesByWeek = (
	db: Query,
	asked: AskedRows
): Promise<{ week: string; messages: number; homes: number; most: number }[]> =>
	db.all(
		`WITH message AS (SELECT DISTINCT week, asked.id AS dispatch, household_id AS home FROM ${weekRows.table} AS asked
			CROSS JOIN delivery ON dispatch_id = asked.id JOIN household_member ON household_member.person_id = delivery.person_id
			WHERE left_at IS NOT NULL AND ${theirs(asked)}),
		home AS (SELECT week, home, count(*) AS n FROM message GROUP BY week, home)
		SELECT week, sum(n) AS messages, count(*) AS homes, max(n) AS most FROM home GROUP BY week`,
		bindOf(asked)
	);

/** Copies that are in memory at a time, unless a single dispatch has more. */
const atOnce = 100_000;

/** Dispatches in parts whose copies are in memory together. */
async function inParts(
	db: Query,
	dispatches: readonly ReportDispatch[]
): Promise<ReportDispatch[][]> {
	const counts = new Map(
		(
			await db.all<{ id: number; n: number }>(
				`SELECT dispatch_id AS id, count(*) AS n FROM delivery
				WHERE dispatch_id IN (SELECT value FROM json_each($ids)) GROUP BY dispatch_id`,
				{ ids: JSON.stringify(dispatches.map((d) => d.id)) }
			)
		).map(({ id, n }) => [id, n])
	);
	const parts: ReportDispatch[][] = [];
	let room = 0;
	for (const dispatch of dispatches) {
		const copies = counts.get(dispatch.id) ?? 0;
		if (copies > room || parts.length === 0) {
			parts.push([]);
			room = atOnce;
		}
		parts.at(-1)!.push(dispatch);
		room -= copies;
	}
	return parts;
}

/** The languages that the families of students want to read today, tags with a comma between. */
async function languagesNow(db: Query, students: readonly number[]): Promise<Map<number, string>> {
	const rows = await db.all<{ id: number; tags: string }>(
		`SELECT student_id AS id, group_concat(DISTINCT language) AS tags FROM contact_now AS contact
		JOIN person_now AS person ON person.id = contact.person_id
		WHERE guardian AND custody AND correspondence AND student_id IN (SELECT value FROM json_each($students))
		GROUP BY student_id`,
		{ students: JSON.stringify(students) }
	);
	return new Map(rows.map(({ id, tags }) => [id, tags.split(',').sort().join(',')]));
}

type Counter = { -readonly [K in keyof Covered]: Covered[K] };

/** How many of the students came to be covered within so long (ms) of leaving, by week and by the language of their families. */
export async function coveredBy(
	db: Query,
	{ dispatches, students }: AskedRows,
	withinMs: number
): Promise<{
	readonly weeks: ReadonlyMap<string, Covered>;
	readonly languages: ReadonlyMap<string, Covered>;
}> {
	const asked = new Set(students);
	const weeks = new Map<string, Counter>();
	const languages = new Map<string, Counter>();
	const add = (sums: Map<string, Counter>, key: string, covered: boolean) => {
		let sum = sums.get(key);
		if (!sum) sums.set(key, (sum = { of: 0, covered: 0 }));
		sum.of += 1;
		if (covered) sum.covered += 1;
	};
	const tags = await languagesNow(db, students);
	for (const part of await inParts(db, dispatches)) {
		const coverages = await coverageBy(
			db,
			part.map((d) => d.id),
			{ keep: false }
		);
		for (const { id, leavesAt, week } of part) {
			const coverage = coverages.get(id)!;
			if (coverage.unit !== 'students') continue;
			const { times } = coverage.kept;
			for (const [student, standing] of coverage.standing) {
				if (!asked.has(student)) continue;
				const inTime = isCovered(standing) && times.get(student)! <= leavesAt + withinMs;
				add(weeks, week, inTime);
				add(languages, tags.get(student) ?? '', inTime);
			}
		}
	}
	return { weeks, languages };
}

/** Addresses of the students’ families: when those that fail began to, and when others were put right (instants, ms). */
export async function addressTimes(
	db: Query,
	students: readonly number[]
): Promise<{ readonly failing: readonly number[]; readonly mended: readonly number[] }> {
	const bind = { students: JSON.stringify(students) };
	const family = `(SELECT person_id FROM contact_now WHERE student_id IN (SELECT value FROM json_each($students)))`;
	const failing = await db.all<{ at: number }>(
		`SELECT failing_since AS at FROM address WHERE failing IS NOT NULL AND failing_since IS NOT NULL AND person_id IN ${family}`,
		bind
	);
	const mended = await db.all<{ at: number }>(
		`SELECT mended.at FROM mended JOIN address ON address.id = address_id WHERE person_id IN ${family}`,
		bind
	);
	return { failing: failing.map((r) => r.at), mended: mended.map((r) => r.at) };
}
