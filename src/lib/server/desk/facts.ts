import { dispatchesOf, listsOf, type Audience } from '../../core/audience/audience';
import type { Facts, ListEntry } from '../../core/audience/facts';
import { groupBy } from '../../core/roster/roster';
import { coverageOf } from '../../core/track/coverage';
import { hasRead } from '../../core/track/evidence';
import { dispatchCondition, keptCondition, rightsBind } from '../access/rights';
import type { User } from '../access/sessions';
import { studentDeliveries } from './student-deliveries';
import type { Query } from '../db/open';

/** What an audience asks beside the roster, as far as the user may know it; and what of it is not there for them. */
export interface KnownFacts extends Facts {
	readonly gone: readonly string[];
}

const none: KnownFacts = {
	uncovered: () => [],
	hasRead: () => false,
	list: () => undefined,
	gone: []
};

/** Reads the facts that an audience needs and no others. */
export async function readFacts(db: Query, user: User, audience: Audience): Promise<KnownFacts> {
	const [dispatches, lists] = [dispatchesOf(audience), listsOf(audience)];
	if (dispatches.length === 0 && lists.length === 0) return none;
	const mine = dispatchCondition(user);
	const seen = (
		await db.all<{ id: number }>(
			`SELECT id FROM dispatch WHERE state != 'draft' AND ${mine}
				AND id IN (SELECT value FROM json_each($ids))`,
			{ ids: JSON.stringify(dispatches), ...rightsBind(user, mine) }
		)
	).map((d) => d.id);
	const ids = JSON.stringify(seen);
	const students = groupBy(
		await db.all<{ dispatchId: number; studentId: number }>(
			`SELECT dispatch_id AS dispatchId, student_id AS studentId FROM dispatch_student
			WHERE dispatch_id IN (SELECT value FROM json_each($ids))`,
			{ ids }
		),
		(s) => s.dispatchId
	);
	const copies = groupBy(await studentDeliveries(db, seen), (d) => d.dispatchId);
	const readers = new Set(
		(
			await db.all<{ dispatchId: number; personId: number }>(
				`SELECT dispatch_id AS dispatchId, person_id AS personId FROM delivery
				WHERE state IN ('read', 'answered') AND dispatch_id IN (SELECT value FROM json_each($ids))
				UNION SELECT dispatch_id, delivery_also.person_id FROM delivery_also
				JOIN delivery ON delivery.id = delivery_id
				WHERE state IN ('read', 'answered') AND dispatch_id IN (SELECT value FROM json_each($ids))`,
				{ ids }
			)
		).map((r) => `${r.dispatchId} ${r.personId}`)
	);
	const uncovered = new Map(
		seen.map((id) => {
			const all = (students.get(id) ?? []).map((s) => s.studentId);
			const { standing } = coverageOf(all, copies.get(id) ?? []);
			return [
				id,
				all.filter((s) => {
					const state = standing.get(s)!;
					return state === 'nobody' || !hasRead(state);
				})
			];
		})
	);
	const own = keptCondition(user);
	const entries = await db.all<{
		keptId: number;
		personId: number | null;
		studentId: number | null;
		explicit: number | null;
	}>(
		`SELECT kept_audience.id AS keptId, person_id AS personId, student_id AS studentId, explicit
		FROM kept_audience LEFT JOIN kept_person ON kept_id = kept_audience.id
		WHERE form = 'list' AND gone_at IS NULL AND ${own}
			AND kept_audience.id IN (SELECT value FROM json_each($lists))`,
		{ lists: JSON.stringify(lists), ...rightsBind(user, own) }
	);
	const entriesOf = new Map<number, ListEntry[]>();
	for (const { keptId, personId, studentId, explicit } of entries) {
		const list = entriesOf.get(keptId) ?? [];
		entriesOf.set(keptId, list);
		if (personId !== null) list.push({ personId, studentId, explicit: explicit === 1 });
	}
	return {
		uncovered: (id) => uncovered.get(id) ?? [],
		hasRead: (id, personId) => readers.has(`${id} ${personId}`),
		list: (id) => entriesOf.get(id),
		gone: [
			...dispatches.filter((id) => !uncovered.has(id)).map((id) => `The earlier dispatch #${id}`),
			...lists.filter((id) => !entriesOf.has(id)).map((id) => `The fixed list #${id}`)
		]
	};
}
