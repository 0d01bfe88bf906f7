import type { Way } from '../../core/plan/manifest';
import { groupBy } from '../../core/roster/roster';
import { coverageOf, coverageOfPeople, type CoverageUnit } from '../../core/track/coverage';
import { dispatchCondition, rightsBind } from '../access/rights';
import type { User } from '../access/sessions';
import type { Db } from '../db/open';
import { personDeliveries, studentDeliveries } from './student-deliveries';

/** A dispatch as lists show it. */
export interface DispatchLine {
	readonly id: number;
	readonly subject: string;
	readonly sender: string;
	readonly state: 'draft' | 'scheduled' | 'sent';
	readonly ways: readonly Way[];
	readonly leavesAt: number | null;
	readonly changedAt: number;
	readonly copies: number;
	/** What the three numbers count. */
	readonly unit: CoverageUnit;
	readonly students: number;
	readonly covered: number;
	readonly unreachable: number;
	/** The audience as a sentence. */
	readonly audience: string;
}

interface LineRow {
	id: number;
	subject: string;
	sender: string;
	state: DispatchLine['state'];
	ways: string;
	leavesAt: number | null;
	changedAt: number;
	copies: number;
	audience: string;
}

/** Dispatches a user may see, newest first, that left or will leave in a half-open interval of instants. */
export async function dispatchLines(
	db: Db,
	user: User,
	interval: { from: number; to: number },
	limit = 200
): Promise<DispatchLine[]> {
	const condition = dispatchCondition(user);
	const rows = await db.all<LineRow>(
		`${lineSelect} WHERE state != 'draft' AND leaves_at >= $from AND leaves_at < $to AND ${condition}
		ORDER BY leaves_at DESC, dispatch.id DESC LIMIT $limit`,
		{ ...interval, limit, ...rightsBind(user, condition) }
	);
	return withCoverage(db, rows);
}

/** A user's drafts, newest first. */
export async function draftLines(db: Db, user: User): Promise<DispatchLine[]> {
	const rows = await db.all<LineRow>(
		`${lineSelect} WHERE state = 'draft' AND sender_id = $user ORDER BY changed_at DESC LIMIT 50`,
		{ user: user.personId }
	);
	return withCoverage(db, rows);
}

const lineSelect = `SELECT dispatch.id, subject, given_name || ' ' || family_name AS sender, state, ways,
	leaves_at AS leavesAt, changed_at AS changedAt, audience_words AS audience,
	(SELECT count(*) FROM delivery WHERE dispatch_id = dispatch.id) AS copies
	FROM dispatch JOIN person ON person.id = sender_id`;

async function withCoverage(db: Db, rows: LineRow[]): Promise<DispatchLine[]> {
	const ids = JSON.stringify(rows.map((r) => r.id));
	const students = await db.all<{ dispatchId: number; studentId: number }>(
		`SELECT dispatch_id AS dispatchId, student_id AS studentId FROM dispatch_student
		WHERE dispatch_id IN (SELECT value FROM json_each($ids))`,
		{ ids }
	);
	const deliveries = await studentDeliveries(
		db,
		rows.map((r) => r.id)
	);
	const studentsOf = groupBy(students, (s) => s.dispatchId);
	const deliveriesOf = groupBy(deliveries, (d) => d.dispatchId);
	const without = rows.filter((r) => !studentsOf.has(r.id)).map((r) => r.id);
	const people = groupBy(await personDeliveries(db, without), (d) => d.dispatchId);
	return rows.map((row) => {
		const unit: CoverageUnit = people.has(row.id) ? 'people' : 'students';
		const coverage =
			unit === 'people'
				? coverageOfPeople(people.get(row.id)!)
				: coverageOf(
						(studentsOf.get(row.id) ?? []).map((s) => s.studentId),
						deliveriesOf.get(row.id) ?? []
					);
		return {
			...row,
			unit,
			ways: JSON.parse(row.ways) as Way[],
			students: coverage.students,
			covered: coverage.covered,
			unreachable: coverage.unreachable
		};
	});
}
