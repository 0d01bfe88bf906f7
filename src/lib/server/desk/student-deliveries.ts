import type { StudentDelivery } from '../../core/track/coverage';
import type { DeliveryState } from '../../core/track/evidence';
import type { Query } from '../db/open';

/** Where each copy stands, by person; for dispatches that speak of no student. */
export const personDeliveries = (
	db: Query,
	dispatchIds: readonly number[]
): Promise<{ dispatchId: number; personId: number; state: DeliveryState }[]> =>
	db.all(
		`SELECT dispatch_id AS dispatchId, person_id AS personId, state FROM delivery
		WHERE dispatch_id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify(dispatchIds) }
	);

/** Every pair of a delivery and a student it speaks of. An address shared with an adult counts as an adult's. */
export async function studentDeliveries(
	db: Query,
	dispatchIds: readonly number[]
): Promise<(StudentDelivery & { dispatchId: number })[]> {
	const rows = await db.all<{
		dispatchId: number;
		studentId: number;
		state: DeliveryState;
		toAdult: number;
	}>(
		`SELECT delivery.dispatch_id AS dispatchId, student_id AS studentId, delivery.state,
			(person.kind = 'adult' OR EXISTS (SELECT 1 FROM delivery_also JOIN person AS other
				ON other.id = delivery_also.person_id
				WHERE delivery_id = delivery.id AND other.kind = 'adult')) AS toAdult
		FROM delivery JOIN delivery_student ON delivery_id = delivery.id
		JOIN person ON person.id = delivery.person_id
		WHERE delivery.dispatch_id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify(dispatchIds) }
	);
	return rows.map((r) => ({ ...r, toAdult: r.toAdult === 1 }));
}
