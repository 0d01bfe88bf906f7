import type { StudentDelivery } from '../../../core/track/coverage';
import type { DeliveryState } from '../../../core/track/evidence';
import { groupBy } from '../../../core/group-by';
import { readMany } from '../../db/many';
import type { DeliveryAlsoRow } from '../../db/models/delivery';
import type { Query } from '../../db/open';

/** A copy as coverage sees it; what evidence changes of it is changed in place. */
export interface Copy {
	readonly personId: number;
	readonly adult: boolean;
	state: DeliveryState;
	readAt: number | null;
}

/** Of whom a copy speaks and by whom it is read, as coverage sees it. It follows its copy; there are hundreds of thousands. */
class CopyOfStudent implements StudentDelivery {
	constructor(
		private readonly copy: Copy,
		readonly studentId: number,
		readonly readers: readonly number[],
		readonly toAdult: boolean
	) {}
	get state(): DeliveryState {
		return this.copy.state;
	}
	get readAt(): number | null {
		return this.copy.readAt;
	}
}

/** Which dispatches are counted, as a condition and its bind. */
export const inThese = 'dispatch_id IN (SELECT value FROM json_each($ids))';
type These = { readonly ids: string };

/** The copies of some dispatches, by delivery. */
export async function copiesIn(
	db: Query,
	bind: These
): Promise<Map<number, Copy & { readonly dispatchId: number }>> {
	return new Map(
		await readMany(
			db,
			'id, dispatchId, personId, state, readAt, kind',
			`FROM (SELECT delivery.id, dispatch_id AS dispatchId, person_id AS personId, state,
				read_at AS readAt, kind FROM delivery JOIN person ON person.id = person_id WHERE ${inThese})`,
			([id, dispatchId, personId, state, readAt, kind]) =>
				[
					id as number,
					{
						dispatchId: dispatchId as number,
						personId: personId as number,
						state: state as DeliveryState,
						readAt: readAt as number | null,
						adult: kind === 'adult'
					}
				] as const,
			bind
		)
	);
}

/** Of whom the copies speak and by whom they are read, by dispatch; each follows its copy's state. */
export async function deliveriesIn(
	db: Query,
	bind: These,
	copies: ReadonlyMap<number, Copy & { readonly dispatchId: number }>
): Promise<Map<number, StudentDelivery[]>> {
	const also = groupBy(
		await db.all<
			Pick<DeliveryAlsoRow, 'personId'> & { id: DeliveryAlsoRow['deliveryId']; adult: number }
		>(
			`SELECT delivery_id AS id, delivery_also.person_id AS personId, kind = 'adult' AS adult
			FROM delivery_also JOIN delivery ON delivery.id = delivery_id
			JOIN person ON person.id = delivery_also.person_id WHERE ${inThese}`,
			bind
		),
		(a) => a.id
	);
	const pairs = await readMany(
		db,
		'id, studentId',
		`FROM (SELECT delivery_id AS id, student_id AS studentId FROM delivery_student
			JOIN delivery ON delivery.id = delivery_id WHERE ${inThese})`,
		(values) => values as [number, number],
		bind
	);
	const deliveries = new Map<number, StudentDelivery[]>();
	for (const [id, studentId] of pairs) {
		const copy = copies.get(id)!;
		const others = also.get(id);
		let list = deliveries.get(copy.dispatchId);
		if (!list) deliveries.set(copy.dispatchId, (list = []));
		list.push(
			new CopyOfStudent(
				copy,
				studentId,
				others ? [copy.personId, ...others.map((o) => o.personId)] : [copy.personId],
				copy.adult || (others?.some((o) => o.adult === 1) ?? false)
			)
		);
	}
	return deliveries;
}
