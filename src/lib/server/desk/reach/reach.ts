import { turnsSchema } from '../../../core/plan/turns';
import { coverageSentence, isCovered } from '../../../core/track/coverage';
import type { DeliveryState } from '../../../core/track/evidence';
import { bestHabitWords } from '../../../core/track/habit';
import { growthOf, type Growth } from '../../../core/track/growth';
import { shareOf } from '../../../core/track/share';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import type { Db, Query } from '../../db/open';
import { chainOf } from '../track/chase-chain';
import { coverageBy, type DispatchCoverage } from '../track/coverage';
import { deliveryPage, type DeliveryFilter } from '../track/delivery-lines';
import { habitsOf } from '../track/habits';
import { countLeftOut, leftOutLines } from '../track/left-out-lines';
import { countStudentsLeft, studentsLeftLines } from '../track/students-left';
import { isUnsure, waits } from '../../db/copy-state';
import type { DispatchReach, RingStudent, RosterFieldLine, ReachShare, LinkLine } from './types';
import { type Way, ways as allWays } from '../../../core/roster/way';
import { groupBy } from '../../../core/group-by';
import type { DeliveryRow } from '../../db/models/delivery';
import type { DispatchRow } from '../../db/models/dispatch';

/** More rings than this are too many to draw at once. */
const mostRings = 800;
const leftOutShown = 100;

interface Head {
	id: number;
	subject: string;
	body: string;
	audience: string;
	sender: string;
	senderId: number;
	state: 'scheduled' | 'sent';
	ways: string;
	turns: string;
	scheduledAt: number;
	leavesAt: number;
	sentAt: number | null;
	endsAt: number | null;
	waits: string | null;
	roundId: number | null;
	chases: number | null;
	expected: string;
}

/** Reads a dispatch that was sent or is on its way, where the user may see it; null else. */
export async function dispatchHead(db: Query, user: User, id: number): Promise<Head | null> {
	const condition = scope(user).dispatches;
	return (
		(await db.one<Head>(
			`SELECT dispatch.id, subject, body, audience_words AS audience,
				given_name || ' ' || family_name AS sender, sender_id AS senderId, state, ways, turns,
				scheduled_at AS scheduledAt, leaves_at AS leavesAt, sent_at AS sentAt, ends_at AS endsAt,
				waits, round_id AS roundId, chases, expected
			FROM dispatch JOIN person ON person.id = sender_id
			WHERE dispatch.id = $id AND state != 'draft' AND ${condition.sql}`,
			{ id, ...condition.bind }
		)) ?? null
	);
}

/** A dispatch that was sent or is on hold, with where each copy stands; null where the user may not see it or it is a draft. */
export async function dispatchReach(
	db: Db,
	user: User,
	id: number,
	filter: DeliveryFilter
): Promise<DispatchReach | null> {
	const head = await dispatchHead(db, user, id);
	if (!head) return null;
	const coverage = (await coverageBy(db, [id])).get(id)!;
	const students = await fieldStudents(db, id);
	const languages = await languagesOf(db, id);
	const pending = (await db.one<DispatchReach['pending']>(
		`SELECT count(*) AS copies, coalesce(sum(attempts = 0), 0) AS untried, min(due_at) AS firstAt, max(due_at) AS lastAt FROM delivery
		WHERE dispatch_id = $id AND ${waits}`,
		{ id }
	))!;
	const counts = await db.all<Pick<DeliveryRow, 'way' | 'state'> & { n: number; left: number }>(
		`SELECT way, state, count(*) AS n, count(left_at) AS left FROM delivery WHERE dispatch_id = $id GROUP BY way, state`,
		{ id }
	);
	const weak = (await db.one<{ n: number }>(
		`SELECT count(*) AS n FROM delivery WHERE dispatch_id = $id AND strength = 'weak'`,
		{ id }
	))!.n;
	const unsure = (await db.one<{ n: number }>(
		`SELECT count(*) AS n FROM delivery WHERE dispatch_id = $id AND ${isUnsure}`,
		{ id }
	))!.n;
	const chosen = JSON.parse(head.ways) as Way[];
	// Copies for information and ways chosen by hand may go by another way than the dispatch's.
	const ways = allWays.filter((w) => chosen.includes(w) || counts.some((c) => c.way === w));
	const { expected, chases, turns, ...shown } = head;
	const byWay = ways.map((way) => {
		const mine = counts.filter((c) => c.way === way);
		return {
			way,
			states: Object.fromEntries(mine.map((c) => [c.state, c.n])) as Partial<
				Record<DeliveryState, number>
			>,
			copies: mine.reduce((sum, c) => sum + c.n, 0)
		};
	});
	const leftOut = await countLeftOut(db, id);
	const page = await deliveryPage(db, id, filter, () =>
		[...coverage.standing].flatMap(([student, s]) => (isCovered(s) ? [] : [student]))
	);
	return {
		...shown,
		turns: turnsSchema.parse(JSON.parse(turns)),
		...(await chaseLinks(db, user, id, chases)),
		together: await together(db, user, id, coverage),
		ways,
		rule: coverage.rule,
		urgent: await urgency(db, id),
		pending,
		farAhead:
			head.state === 'scheduled' && head.waits === null && counts.length === 0 && expected !== '{}',
		unit: coverage.unit,
		sentence: coverageSentence(coverage, coverage.unit),
		students: coverage.students,
		covered: coverage.covered,
		waiting: coverage.waiting,
		unreachable: coverage.unreachable,
		field: fieldOf(students, coverage),
		bySchool: sharesBy(students, coverage, (s) => s.school),
		byLanguage: sharesBy(students, coverage, (s) => languages.get(s.studentId) ?? s.language),
		byWayRead: byWay
			.map(({ way, states }) => {
				const read = (states.read ?? 0) + (states.answered ?? 0);
				// What failed before it was handed over never left.
				const left = counts.reduce((sum, c) => sum + (c.way === way ? c.left : 0), 0);
				return { name: way, ...shareOf(Math.min(read, left), left) };
			})
			.filter((s) => s.of > 0),
		growth: await growth(db, id, coverage),
		byWay,
		weak,
		unsure,
		links: await linkLines(db, id),
		...page,
		habits: Object.fromEntries(
			[...(await habitsOf(db, [...new Set(page.deliveries.map((d) => d.personId))]))].map(
				([person, habits]) => [person, bestHabitWords(Object.values(habits))]
			)
		),
		leftOut,
		leftOutFirst: leftOut.rows > 0 ? await leftOutLines(db, id, leftOutShown) : [],
		studentsLeft: await countStudentsLeft(db, id),
		studentsLeftFirst: await studentsLeftLines(db, id, leftOutShown)
	};
}

/** Who used the right to send urgently, and over how many wishes; null where nobody did. */
async function urgency(db: Query, id: number): Promise<DispatchReach['urgent']> {
	const row = await db.one<{ by: string; at: number; overWish: number }>(
		`SELECT given_name || ' ' || family_name AS by, urgent_at AS at,
			(SELECT count(DISTINCT delivery_id) FROM event JOIN delivery ON delivery.id = delivery_id
				WHERE dispatch_id = dispatch.id AND event.kind = 'scheduled' AND code = 'over-wish') AS overWish
		FROM dispatch JOIN person ON person.id = urgent_by WHERE dispatch.id = $id`,
		{ id }
	);
	return row ?? null;
}

/** The rings of one section of a dispatch, for a line that is opened; null where the user may not see the dispatch. */
export async function sectionRings(
	db: Db,
	user: User,
	id: number,
	sectionId: number
): Promise<RingStudent[] | null> {
	if (!(await dispatchHead(db, user, id))) return null;
	const coverage = (await coverageBy(db, [id])).get(id)!;
	return (await fieldStudents(db, id, sectionId)).map((s) => ringOf(s, coverage));
}

interface FieldStudent {
	readonly studentId: number;
	readonly name: string;
	readonly sectionId: number;
	readonly section: string;
	readonly school: string;
	/** BCP 47 tag of the student's own language. */
	readonly language: string;
}

/** The students of a dispatch in the order of the field; `sectionId` keeps those of one section. */
const fieldStudents = (db: Query, id: number, sectionId?: number): Promise<FieldStudent[]> =>
	db.all<FieldStudent>(
		`SELECT student_id AS studentId, student.given_name || ' ' || student.family_name AS name,
			coalesce(section_id, 0) AS sectionId, coalesce(section.name, 'In no section') AS section,
			coalesce(school.name, '') AS school,
			student.language AS language
		FROM dispatch_student JOIN person AS student ON student.id = student_id
		LEFT JOIN section ON section.id = section_id LEFT JOIN school ON school.id = student.school_id
		WHERE dispatch_id = $id ${sectionId === undefined ? '' : 'AND coalesce(section_id, 0) = $sectionId'}
		ORDER BY school.name, section.name, section_id, student.family_name, student.given_name`,
		{ id, ...(sectionId === undefined ? {} : { sectionId }) }
	);

/**
 * In which language a student's family wants to be written to: that of the adults the copies go to, or of
 * those left out where nobody gets one; as BCP 47 tags with a comma between, where they differ.
 */
async function languagesOf(db: Query, id: number): Promise<Map<number, string>> {
	const rows = await db.all<{ studentId: number; languages: string }>(
		`WITH reader(student_id, language) AS (
			SELECT student_id, language FROM delivery_student JOIN delivery ON delivery.id = delivery_id
				JOIN person ON person.id = person_id AND kind = 'adult' WHERE dispatch_id = $id
			UNION SELECT student_id, language FROM delivery_student
				JOIN delivery_also USING (delivery_id) JOIN delivery ON delivery.id = delivery_id
				JOIN person ON person.id = delivery_also.person_id AND kind = 'adult' WHERE dispatch_id = $id),
		missed(student_id, language) AS (
			SELECT student_id, language FROM left_out JOIN left_out_student ON left_out_id = left_out.id
				JOIN person ON person.id = person_id AND kind = 'adult' WHERE dispatch_id = $id)
		SELECT student_id AS studentId, group_concat(DISTINCT language) AS languages FROM reader GROUP BY 1
		UNION ALL SELECT student_id, group_concat(DISTINCT language) FROM missed
			WHERE student_id NOT IN (SELECT student_id FROM reader) GROUP BY 1`,
		{ id }
	);
	return new Map(rows.map((r) => [r.studentId, r.languages.split(',').sort().join(',')]));
}

const ringOf = (s: FieldStudent, coverage: DispatchCoverage): RingStudent => ({
	studentId: s.studentId,
	name: s.name,
	standing: coverage.standing.get(s.studentId) ?? 'nobody'
});

function fieldOf(students: readonly FieldStudent[], coverage: DispatchCoverage): RosterFieldLine[] {
	const all = students.length <= mostRings;
	return [...groupBy(students, (s) => s.sectionId)].map(([sectionId, list]) => {
		const { section, school } = list[0]!;
		const rings = list.map((s) => ringOf(s, coverage));
		return {
			sectionId,
			section,
			school: sectionId === 0 ? '' : school,
			students: rings.length,
			covered: rings.filter((r) => isCovered(r.standing)).length,
			unreachable: rings.filter((r) => r.standing === 'failed' || r.standing === 'nobody').length,
			rings: all ? rings : null
		};
	});
}

/** Shares of the students by something about them, the largest part first; none where it would say no more than the whole. */
function sharesBy(
	students: readonly FieldStudent[],
	coverage: DispatchCoverage,
	nameOf: (student: FieldStudent) => string
): ReachShare[] {
	const groups = groupBy(students, nameOf);
	if (groups.size < 2) return [];
	return [...groups]
		.map(([name, list]) => ({
			name,
			...shareOf(
				list.filter((s) => isCovered(coverage.standing.get(s.studentId) ?? 'nobody')).length,
				list.length
			)
		}))
		.sort((a, b) => b.of - a.of || a.name.localeCompare(b.name));
}

/** How reading grew since the first copy left; null while none has. */
async function growth(db: Query, id: number, coverage: DispatchCoverage): Promise<Growth | null> {
	const first = (await db.one<{ at: number | null }>(
		'SELECT min(left_at) AS at FROM delivery WHERE dispatch_id = $id',
		{ id }
	))!.at;
	if (first === null) return null;
	return growthOf(coverage.times().values(), coverage.students, first, await now(db));
}

async function linkLines(db: Query, id: number): Promise<LinkLine[]> {
	const rows = await db.all<{ href: string; strength: string; name: string }>(
		`SELECT about AS href, max(event.strength = 'fair') AS fair, given_name || ' ' || family_name AS name,
			CASE WHEN max(event.strength = 'fair') THEN 'fair' ELSE 'weak' END AS strength
		FROM event JOIN delivery ON delivery.id = delivery_id JOIN person ON person.id = person_id
		WHERE dispatch_id = $id AND event.kind = 'words-link-followed'
		GROUP BY about, person_id ORDER BY family_name, given_name`,
		{ id }
	);
	return [...groupBy(rows, (r) => r.href)]
		.map(([href, list]) => {
			const people = list.filter((r) => r.strength === 'fair');
			return {
				href,
				people: people.length,
				machines: list.length - people.length,
				names: people.slice(0, 200).map((p) => p.name)
			};
		})
		.sort((a, b) => b.people - a.people);
}

/** How many of a dispatch's students are covered by it or by what follows it up. */
async function together(
	db: Query,
	user: User,
	id: number,
	coverage: DispatchCoverage
): Promise<DispatchReach['together']> {
	const later = (await chainOf(db, user, id)).filter((other) => other > id);
	if (later.length === 0) return null;
	const others = [...(await coverageBy(db, later)).values()];
	const covered = [...coverage.standing].filter(
		([student, standing]) =>
			isCovered(standing) ||
			others.some((o) => o.unit === coverage.unit && isCovered(o.standing.get(student) ?? 'nobody'))
	).length;
	return { covered, dispatches: later.length };
}

/** The dispatch this one follows up and those that follow it up, as far as the user may see them. */
async function chaseLinks(
	db: Query,
	user: User,
	id: number,
	chases: number | null
): Promise<Pick<DispatchReach, 'chases' | 'chasedBy'>> {
	const condition = scope(user).dispatches;
	const rows = await db.all<Pick<DispatchRow, 'id' | 'subject' | 'chases'>>(
		`SELECT id, subject, chases FROM dispatch WHERE (id = $chases OR chases = $id)
			AND state != 'draft' AND ${condition.sql} ORDER BY id`,
		{ id, chases, ...condition.bind }
	);
	const plain = ({ id: other, subject }: { id: number; subject: string }) => ({
		id: other,
		subject
	});
	return {
		chases: rows.filter((r) => r.id === chases).map(plain)[0] ?? null,
		chasedBy: rows.filter((r) => r.chases === id).map(plain)
	};
}
