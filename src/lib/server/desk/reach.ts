import { reasonText, type Reason } from '../../core/audience/reasons';
import { nameList } from '../../core/copy/names';
import { ways as allWays, type Way } from '../../core/plan/manifest';
import { groupBy } from '../../core/roster/roster';
import {
	coverageOf,
	coverageOfPeople,
	coverageSentence,
	type CoverageUnit,
	type StudentStanding
} from '../../core/track/coverage';
import {
	strengthOf,
	type DeliveryState,
	type EventKind,
	type Strength
} from '../../core/track/evidence';
import { dispatchCondition, rightsBind } from '../access/rights';
import type { User } from '../access/sessions';
import type { Db, Query } from '../db/open';
import { personDeliveries, studentDeliveries } from './student-deliveries';

export interface RingStudent {
	readonly studentId: number;
	readonly name: string;
	readonly standing: StudentStanding;
}

export interface RosterFieldLine {
	readonly section: string;
	readonly covered: number;
	readonly rings: readonly RingStudent[];
}

export interface DeliveryLine {
	readonly id: number;
	/** Students this copy speaks of, as a phrase. */
	readonly students: string;
	readonly person: string;
	readonly personId: number;
	readonly relation: string;
	readonly way: Way;
	readonly address: string | null;
	/** Others who read at this address. */
	readonly alsoFor: string;
	readonly state: DeliveryState;
	readonly strength: Strength;
	readonly evidence: readonly { at: number; kind: EventKind; detail: string; strength: Strength }[];
}

export interface DispatchReach {
	readonly id: number;
	readonly subject: string;
	readonly body: string;
	readonly sender: string;
	readonly senderId: number;
	readonly state: 'scheduled' | 'sent';
	readonly ways: readonly Way[];
	readonly scheduledAt: number;
	readonly leavesAt: number;
	readonly sentAt: number | null;
	/** No copy leaves at or after this instant; null where it never goes stale. */
	readonly endsAt: number | null;
	/** Why it waits for an answer instead of leaving, or null. */
	readonly waits: string | null;
	readonly roundId: number | null;
	/** Whether copies are only written down when its time comes near. */
	readonly farAhead: boolean;
	/** Copies that have not left, and when the first and the last of them do. */
	readonly pending: {
		readonly copies: number;
		readonly firstAt: number | null;
		readonly lastAt: number | null;
	};
	readonly sentence: string;
	/** What the four numbers count. */
	readonly unit: CoverageUnit;
	readonly students: number;
	readonly covered: number;
	readonly waiting: number;
	readonly unreachable: number;
	readonly field: readonly RosterFieldLine[];
	/** Counted over all copies, whatever the filter. */
	readonly byWay: readonly {
		way: Way;
		states: Readonly<Partial<Record<DeliveryState, number>>>;
		copies: number;
	}[];
	/** Deliveries that fit the filter, and the page of them. */
	readonly found: number;
	readonly deliveries: readonly DeliveryLine[];
	readonly leftOut: readonly { name: string; students: string; why: string }[];
}

/** Which deliveries of a dispatch are listed. */
export interface DeliveryFilter {
	readonly way: Way | 'all';
	readonly state: DeliveryState | 'all' | 'not-covered';
	/** 1 is the first page. */
	readonly page: number;
}
export const deliveriesPerPage = 50;

/** A dispatch that was sent or is on hold, with where each copy stands; null where the user may not see it or it is a draft. */
export async function dispatchReach(
	db: Db,
	user: User,
	id: number,
	filter: DeliveryFilter
): Promise<DispatchReach | null> {
	const condition = dispatchCondition(user);
	const dispatch = await db.one<{
		id: number;
		subject: string;
		body: string;
		sender: string;
		senderId: number;
		state: 'scheduled' | 'sent';
		ways: string;
		scheduledAt: number;
		leavesAt: number;
		sentAt: number | null;
		endsAt: number | null;
		waits: string | null;
		roundId: number | null;
		expected: string;
	}>(
		`SELECT dispatch.id, subject, body, given_name || ' ' || family_name AS sender,
			sender_id AS senderId, state, ways, scheduled_at AS scheduledAt, leaves_at AS leavesAt,
			sent_at AS sentAt, ends_at AS endsAt, waits, round_id AS roundId, expected
		FROM dispatch JOIN person ON person.id = sender_id
		WHERE dispatch.id = $id AND state != 'draft' AND ${condition}`,
		{ id, ...rightsBind(user, condition) }
	);
	if (!dispatch) return null;
	const students = await db.all<{ studentId: number; name: string; section: string }>(
		`SELECT student_id AS studentId, given_name || ' ' || family_name AS name,
			coalesce(section.name, 'In no section') AS section
		FROM dispatch_student JOIN person ON person.id = student_id
		LEFT JOIN section ON section.id = section_id
		WHERE dispatch_id = $id ORDER BY section.name, family_name, given_name`,
		{ id }
	);
	const unit: CoverageUnit = students.length > 0 ? 'students' : 'people';
	const coverage =
		unit === 'people'
			? coverageOfPeople(await personDeliveries(db, [id]))
			: coverageOf(
					students.map((s) => s.studentId),
					await studentDeliveries(db, [id])
				);
	const field = [...groupBy(students, (s) => s.section)].map(([section, list]) => {
		const rings = list.map(({ studentId, name }) => ({
			studentId,
			name,
			standing: coverage.standing.get(studentId)!
		}));
		return {
			section,
			rings,
			covered: rings.filter((r) => r.standing === 'read' || r.standing === 'answered').length
		};
	});
	const pending = (await db.one<DispatchReach['pending']>(
		`SELECT count(*) AS copies, min(due_at) AS firstAt, max(due_at) AS lastAt FROM delivery
		WHERE dispatch_id = $id AND state IN ('held', 'planned')`,
		{ id }
	))!;
	const counts = await db.all<{ way: Way; state: DeliveryState; n: number }>(
		`SELECT way, state, count(*) AS n FROM delivery WHERE dispatch_id = $id GROUP BY way, state`,
		{ id }
	);
	const chosen = JSON.parse(dispatch.ways) as Way[];
	// Copies for information and ways chosen by hand may go by another way than the dispatch's.
	const ways = allWays.filter((w) => chosen.includes(w) || counts.some((c) => c.way === w));
	const { expected, ...shown } = dispatch;
	return {
		...shown,
		ways,
		pending,
		farAhead:
			dispatch.state === 'scheduled' &&
			dispatch.waits === null &&
			counts.length === 0 &&
			expected !== '{}',
		unit,
		sentence: coverageSentence(coverage, unit),
		students: coverage.students,
		covered: coverage.covered,
		waiting: coverage.waiting,
		unreachable: coverage.unreachable,
		field,
		byWay: ways.map((way) => {
			const mine = counts.filter((c) => c.way === way);
			return {
				way,
				states: Object.fromEntries(mine.map((c) => [c.state, c.n])),
				copies: mine.reduce((sum, c) => sum + c.n, 0)
			};
		}),
		...(await deliveryLines(db, id, filter, coverage.standing)),
		leftOut: await leftOutLines(db, id)
	};
}

async function deliveryLines(
	db: Query,
	dispatchId: number,
	filter: DeliveryFilter,
	standing: ReadonlyMap<number, StudentStanding>
): Promise<{ found: number; deliveries: DeliveryLine[] }> {
	const open = [...standing]
		.filter(([, s]) => s !== 'read' && s !== 'answered')
		.map(([student]) => student);
	const bind: Record<string, string | number> = { id: dispatchId };
	const conditions = ['delivery.dispatch_id = $id'];
	if (filter.way !== 'all') {
		conditions.push('delivery.way = $way');
		bind.way = filter.way;
	}
	if (filter.state === 'not-covered') {
		conditions.push(
			`EXISTS (SELECT 1 FROM delivery_student WHERE delivery_id = delivery.id
				AND student_id IN (SELECT value FROM json_each($open)))`
		);
		bind.open = JSON.stringify(open);
	} else if (filter.state !== 'all') {
		conditions.push('delivery.state = $state');
		bind.state = filter.state;
	}
	const where = conditions.join(' AND ');
	const { n } = (await db.one<{ n: number }>(
		`SELECT count(*) AS n FROM delivery WHERE ${where}`,
		bind
	))!;
	const rows = await db.all<{
		id: number;
		personId: number;
		kind: 'student' | 'adult';
		person: string;
		way: Way;
		address: string | null;
		state: DeliveryState;
	}>(
		`SELECT delivery.id, person_id AS personId, kind, given_name || ' ' || family_name AS person,
			way, address, state
		FROM delivery JOIN person ON person.id = person_id WHERE ${where}
		ORDER BY family_name, given_name, person_id, way
		LIMIT ${deliveriesPerPage} OFFSET $offset`,
		{ ...bind, offset: (filter.page - 1) * deliveriesPerPage }
	);
	const ids = JSON.stringify(rows.map((r) => r.id));
	const students = groupBy(
		await db.all<{ id: number; name: string; relation: string | null }>(
			`SELECT delivery_id AS id, given_name AS name, relation
			FROM delivery_student JOIN delivery ON delivery.id = delivery_id
			JOIN person ON person.id = delivery_student.student_id
			LEFT JOIN contact ON contact.student_id = delivery_student.student_id
				AND contact.person_id = delivery.person_id
			WHERE delivery_id IN (SELECT value FROM json_each($ids))
			ORDER BY given_name`,
			{ ids }
		),
		(s) => s.id
	);
	const also = groupBy(
		await db.all<{ id: number; name: string }>(
			`SELECT delivery_id AS id, given_name || ' ' || family_name AS name
			FROM delivery_also JOIN person ON person.id = person_id
			WHERE delivery_id IN (SELECT value FROM json_each($ids))`,
			{ ids }
		),
		(a) => a.id
	);
	const events = groupBy(
		await db.all<{ id: number; at: number; kind: EventKind; detail: string }>(
			`SELECT delivery_id AS id, at, kind, detail FROM event
			WHERE delivery_id IN (SELECT value FROM json_each($ids)) ORDER BY at, event.id`,
			{ ids }
		),
		(e) => e.id
	);
	const order: readonly Strength[] = ['none', 'weak', 'fair', 'strong'];
	return {
		found: n,
		deliveries: rows.map((row) => {
			const evidence = (events.get(row.id) ?? []).map(({ at, kind, detail }) => ({
				at,
				kind,
				detail,
				strength: strengthOf[kind]
			}));
			const about = students.get(row.id) ?? [];
			return {
				id: row.id,
				personId: row.personId,
				person: row.person,
				students: nameList(about.map((s) => s.name)),
				relation:
					row.kind === 'student'
						? 'student'
						: [...new Set(about.flatMap((s) => s.relation ?? []))].join(', '),
				way: row.way,
				address: row.address,
				alsoFor: nameList((also.get(row.id) ?? []).map((a) => a.name)),
				state: row.state,
				strength: evidence.reduce<Strength>(
					(most, e) => (order.indexOf(e.strength) > order.indexOf(most) ? e.strength : most),
					'none'
				),
				evidence
			};
		})
	};
}

async function leftOutLines(
	db: Query,
	dispatchId: number
): Promise<{ name: string; students: string; why: string }[]> {
	const rows = await db.all<{ name: string; studentIds: string; reasons: string }>(
		`SELECT given_name || ' ' || family_name AS name, student_ids AS studentIds, reasons
		FROM left_out JOIN person ON person.id = person_id
		WHERE dispatch_id = $id ORDER BY family_name, given_name`,
		{ id: dispatchId }
	);
	const students = await db.all<{ id: number; name: string }>(
		`SELECT id, given_name AS name FROM person
		WHERE id IN (SELECT pick.value FROM left_out, json_each(student_ids) AS pick WHERE dispatch_id = $id)`,
		{ id: dispatchId }
	);
	const nameOf = new Map(students.map((s) => [s.id, s.name]));
	return rows.map(({ name, studentIds, reasons }) => ({
		name,
		students: nameList((JSON.parse(studentIds) as number[]).map((id) => nameOf.get(id) ?? '')),
		why: (JSON.parse(reasons) as Reason[]).map(reasonText).join('. ')
	}));
}
