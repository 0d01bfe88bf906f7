import { nextForReader } from '../../../core/plan/next-for-reader';
import { readerMoment } from '../../../core/plan/reader-moments';
import { readerRules } from '../../../core/plan/reader-rules';
import { usefulUntil, wantedAt } from '../../../core/plan/times';
import { turnsSchema } from '../../../core/plan/turns';
import type { Way } from '../../../core/roster/way';
import { readTimes, type Times } from '../../db/calendar';
import { free } from '../../db/copy-state';
import { rowSet } from '../../db/many';
import type { DeliveryRow } from '../../db/models/delivery';
import type { DispatchRow } from '../../db/models/dispatch';
import type { OwnTimeRow } from '../../db/models/roster';
import type { Query } from '../../db/open';
import { departureOf, eventOfDispatch } from '../sheet/departure';
import { record } from '../track/record';

/** A copy that waits, and what decides when it leaves. */
type Waiting = Pick<DeliveryRow, 'id' | 'way' | 'step' | 'dueAt' | 'attempts' | 'inDigest'> &
	Pick<DispatchRow, 'kind' | 'turns' | 'ways' | 'endsAt'> &
	Pick<OwnTimeRow, 'zone' | 'quietFrom' | 'quietTo' | 'digestAt'> & {
		readonly dispatchId: number;
		readonly leavesAt: number;
		readonly eventAt: number | null;
		/** The school by whose clock it was set. */
		readonly clock: number | null;
		/** JSON list. */
		readonly schools: string;
		/** Whether somebody else reads it at the same address who wants no digest. */
		readonly othersAtOnce: 0 | 1;
	};

/** When a copy leaves by what its reader chooses now; null where it stays as it is. */
function movedTo(
	copy: Waiting,
	{ quiet, ...times }: Times,
	at: number
): { readonly due: number; readonly digest: boolean } | null {
	const { way, zone, quietFrom, quietTo, dueAt } = copy;
	const schoolIds = JSON.parse(copy.schools) as number[];
	const reader = { way, schoolIds, zone, quietFrom, quietTo };
	// What answers a family, and what a provider has put off, is only kept out of hours that are quiet now.
	if (copy.kind === 'answer' || copy.attempts > 0) {
		const due = nextForReader(quiet, Math.max(dueAt, at), reader);
		return due > dueAt ? { due, digest: copy.inDigest === 1 } : null;
	}
	const departure = departureOf(
		{
			timing: { urgent: false, clock: copy.clock },
			turns: turnsSchema.parse(JSON.parse(copy.turns)),
			ways: JSON.parse(copy.ways) as Way[]
		},
		{ at: copy.leavesAt, endsAt: copy.endsAt },
		times,
		copy.eventAt
	);
	const moment = readerMoment(
		Math.max(wantedAt(departure, copy.step), at),
		readerRules(quiet, reader),
		way === 'email' && copy.othersAtOnce === 0 ? copy.digestAt : null,
		usefulUntil(departure, copy.step)
	);
	if (!moment || (moment.at === dueAt && moment.digest === (copy.inDigest === 1))) return null;
	return { due: moment.at, digest: moment.digest };
}

const movedSet = rowSet('$rows', ['id', 'due', 'digest']);

/**
 * Moves copies that wait for somebody to where they belong by the hours, the zone and the digest that they choose now,
 * later or earlier: as if the copies were planned now. What is urgent waits for nobody. In the caller's transaction.
 */
export async function moveWaiting(tx: Query, personId: number, at: number): Promise<void> {
	const times = await readTimes(tx);
	const copies = await tx.all<Waiting>(
		`SELECT delivery.id, dispatch_id AS dispatchId, way, step, due_at AS dueAt, attempts, in_digest AS inDigest, kind, turns, ways,
			coalesce(leaves_at, due_at) AS leavesAt, ends_at AS endsAt, ${eventOfDispatch} AS eventAt,
			json_extract(timing, '$.clock') AS clock,
			zone, quiet_from AS quietFrom, quiet_to AS quietTo, digest_at AS digestAt,
			EXISTS (SELECT 1 FROM delivery_also LEFT JOIN own_time AS other USING (person_id)
				WHERE delivery_id = delivery.id AND other.digest_at IS NULL) AS othersAtOnce,
			(SELECT json_group_array(DISTINCT school_id) FROM delivery_student
				JOIN person ON person.id = student_id WHERE delivery_id = delivery.id AND school_id IS NOT NULL) AS schools
		FROM delivery JOIN dispatch ON dispatch.id = dispatch_id LEFT JOIN own_time ON own_time.person_id = delivery.person_id
		WHERE (delivery.person_id = $personId
				OR delivery.id IN (SELECT delivery_id FROM delivery_also WHERE person_id = $personId))
			AND ${free} AND urgent_by IS NULL`,
		{ personId }
	);
	const moved = copies.flatMap((copy) => {
		const to = movedTo(copy, times, at);
		return to ? [{ ...to, id: copy.id, dispatchId: copy.dispatchId, dueAt: copy.dueAt }] : [];
	});
	if (moved.length === 0) return;
	await tx.run(
		`UPDATE delivery SET due_at = due, in_digest = digest, state = 'planned', digest_id = iif(attempts = 0, NULL, digest_id) FROM ${movedSet.table} AS new WHERE delivery.id = new.id`,
		{
			rows: movedSet.json(moved.map(({ id, due, digest }) => ({ id, due, digest: digest ? 1 : 0 })))
		}
	);
	// What is counted of its days and families is counted anew.
	await tx.run(
		`UPDATE dispatch SET plan = plan + 1, last_due = (SELECT max(due_at) FROM delivery WHERE dispatch_id = dispatch.id)
		WHERE id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify([...new Set(moved.map((m) => m.dispatchId))]) }
	);
	await record(
		tx,
		moved.map(({ id, due, digest, dueAt }) => ({
			...{ deliveryId: id, at, kind: 'noted', source: 'by hand' },
			detail: `its reader has chosen other hours: it leaves ${
				digest ? 'in their daily digest' : due < dueAt ? 'sooner' : 'later'
			}`
		}))
	);
}
