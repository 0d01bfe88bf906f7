import { reasonsText, type Reason } from '../../../core/audience/reasons';
import { turnsSchema, turnsWords } from '../../../core/plan/turns';
import { accountOf, type Account, type AccountInput } from '../../../core/track/account';
import { isCovered } from '../../../core/track/coverage';
import { growthOf } from '../../../core/track/growth';
import { shareOf } from '../../../core/track/share';
import type { User } from '../../access/user';
import { isOver } from '../../../core/track/over';
import { now } from '../../clock';
import { zoneOf } from '../../../core/time/clocks';
import { readTimes } from '../../db/calendar';
import type { Db } from '../../db/open';
import { coverageBy, type DispatchCoverage } from '../track/coverage';
import { countStudentsLeft, studentsLeftLines } from '../track/students-left';
import { dispatchHead } from './head';
import { ways as allWays, type Way } from '../../../core/roster/way';
import { groupBy } from '../../../core/group-by';
import type { HappeningCode } from '../../../core/track/happening-code';
import type { DeliveryRow } from '../../db/models/delivery';
import type { DispatchStudentRow, LeftOutRow } from '../../db/models/dispatch';

/** Reasons are shown one by one as long as a page holds them. */
const mostReasons = 12;

/** The account of a dispatch as of now, counted from its rows; null where the user may not see it. */
export async function readAccount(db: Db, user: User, id: number): Promise<Account | null> {
	const head = await dispatchHead(db, user, id);
	if (!head) return null;
	const { clocks, style } = await readTimes(db);
	const zone = zoneOf(clocks, head.clock);
	const time = await now(db);
	const coverage = (await coverageBy(db, [id])).get(id)!;
	const span = await spanOf(db, id);
	return accountOf({
		subject: head.subject,
		sender: head.sender,
		audience: head.audience,
		ways: turnsWords(
			JSON.parse(head.ways) as Way[],
			turnsSchema.parse(JSON.parse(head.turns)),
			style
		),
		zone,
		style,
		...span,
		now: time,
		allLeft: head.state === 'sent',
		ended: isOver(head, time),
		unit: coverage.unit,
		rule: coverage.rule,
		coverage,
		byWay: await copiesByWay(db, id),
		leftOut: await whyLeftOut(db, id),
		...(await studentsWithout(db, id)),
		failed: await whyFailed(db, id),
		bySchool: await sharesBySchool(db, id, coverage),
		growth:
			span.firstAt === null
				? null
				: growthOf(coverage.kept.timesInOrder, coverage.students, span.firstAt, time)
	});
}

/** When the first and the last copy left, and how many people were written to. */
async function spanOf(db: Db, id: number) {
	return (await db.one<Pick<AccountInput, 'firstAt' | 'lastAt' | 'people'>>(
		`SELECT min(left_at) AS firstAt, max(left_at) AS lastAt,
			(SELECT count(*) FROM (SELECT person_id FROM delivery WHERE dispatch_id = $id
				UNION SELECT delivery_also.person_id FROM delivery_also JOIN delivery ON delivery.id = delivery_id
				WHERE dispatch_id = $id)) AS people
		FROM delivery WHERE dispatch_id = $id`,
		{ id }
	))!;
}

async function copiesByWay(db: Db, id: number): Promise<AccountInput['byWay']> {
	const counts = await db.all<Pick<DeliveryRow, 'way' | 'state'> & { n: number }>(
		'SELECT way, state, count(*) AS n FROM delivery WHERE dispatch_id = $id GROUP BY way, state',
		{ id }
	);
	return allWays
		.map((way) => {
			const mine = counts.filter((c) => c.way === way);
			return {
				way,
				copies: mine.reduce((sum, c) => sum + c.n, 0),
				states: Object.fromEntries(mine.map((c) => [c.state, c.n]))
			};
		})
		.filter((w) => w.copies > 0);
}

async function whyLeftOut(db: Db, id: number): Promise<AccountInput['leftOut']> {
	const rows = await db.all<Pick<LeftOutRow, 'reasons'> & { people: number }>(
		`SELECT reasons, count(DISTINCT person_id) AS people FROM left_out WHERE dispatch_id = $id AND NOT reached
		GROUP BY reasons ORDER BY people DESC`,
		{ id }
	);
	return summed(
		rows.map(({ reasons, people }) => ({
			why: reasonsText(JSON.parse(reasons) as Reason[]),
			people
		})),
		'people'
	);
}

async function studentsWithout(
	db: Db,
	id: number
): Promise<Pick<AccountInput, 'studentsLeft' | 'takenOut'>> {
	const studentsLeft = await countStudentsLeft(db, id);
	const out = studentsLeft.out === 0 ? [] : await studentsLeftLines(db, id);
	const byWhy = groupBy(
		out.filter((s) => s.kind === 'out'),
		(s) => s.why
	);
	return {
		studentsLeft,
		takenOut: [...byWhy].map(([why, list]) => ({ why, students: list.length }))
	};
}

async function whyFailed(db: Db, id: number): Promise<AccountInput['failed']> {
	const rows = await db.all<Failure & { copies: number }>(
		`SELECT coalesce(detail, '') AS detail, code, tries IS NOT NULL AS givenUp, count(*) AS copies FROM delivery
		LEFT JOIN event ON event.id = (SELECT id FROM event WHERE delivery_id = delivery.id
			AND kind IN ('failed', 'stopped') ORDER BY at DESC, id DESC LIMIT 1)
		WHERE dispatch_id = $id AND delivery.state = 'failed' GROUP BY detail, code, givenUp ORDER BY copies DESC`,
		{ id }
	);
	return summed(
		rows.map((f) => ({ why: failureWords(f), copies: f.copies })),
		'copies'
	);
}

/** Shares of the students by school; none where there is only one. */
async function sharesBySchool(
	db: Db,
	id: number,
	{ standing }: DispatchCoverage
): Promise<AccountInput['bySchool']> {
	const students = await db.all<Pick<DispatchStudentRow, 'studentId'> & { school: string }>(
		`SELECT student_id AS studentId, coalesce(school.name, 'No school') AS school FROM dispatch_student
		JOIN person ON person.id = student_id LEFT JOIN school ON school.id = person.school_id
		WHERE dispatch_id = $id`,
		{ id }
	);
	const schools = groupBy(students, (s) => s.school);
	if (schools.size < 2) return [];
	return [...schools].map(([name, list]) => {
		const covered = list.filter((s) => isCovered(standing.get(s.studentId) ?? 'nobody'));
		return { name, ...shareOf(covered.length, list.length) };
	});
}

/** Why copies failed, without what the other side wrote, which makes each one another. */
interface Failure {
	readonly detail: string;
	readonly code: string | null;
	readonly givenUp: 0 | 1;
}
const byHand: HappeningCode = 'by-hand';
const failureWords = ({ detail, code, givenUp }: Failure): string =>
	code === byHand ? 'stopped by hand before it left' : givenUp ? `given up: ${detail}` : detail;

/** The same reasons added up, the rest as one line where there are too many. */
function summed<K extends 'people' | 'copies'>(
	rows: readonly ({ readonly why: string } & Readonly<Record<K, number>>)[],
	count: K
): ({ why: string } & Record<K, number>)[] {
	const sums = new Map<string, number>();
	for (const r of rows) sums.set(r.why, (sums.get(r.why) ?? 0) + r[count]);
	const all = [...sums].sort((a, b) => b[1] - a[1]);
	const rest = all.slice(mostReasons).reduce((sum, [, n]) => sum + n, 0);
	return [
		...all.slice(0, mostReasons),
		...(rest > 0 ? [['other reasons', rest] as const] : [])
	].map(([why, n]) => ({ why, [count]: n }) as { why: string } & Record<K, number>);
}
