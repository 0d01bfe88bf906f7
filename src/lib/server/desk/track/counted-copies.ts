import type { Way } from '../../../core/roster/way';
import type { StudentDelivery } from '../../../core/track/coverage';
import type { DeliveryState, Strength } from '../../../core/track/evidence';
import { groupBy } from '../../../core/group-by';
import { isUnsure } from '../../db/copy-state';
import { readMany, type Value } from '../../db/many';
import type { DeliveryAlsoRow } from '../../db/models/delivery';
import type { Query } from '../../db/open';

/** What evidence changes of a copy. */
interface CopyStanding {
	state: DeliveryState;
	readAt: number | null;
	leftAt: number | null;
	strength: Strength;
	/** Whether it may have arrived, and nothing has been heard since. */
	unsure: boolean;
}

/** A copy as Reach counts it; what evidence changes of it is changed in place. */
export interface Copy extends CopyStanding {
	readonly id: number;
	readonly dispatchId: number;
	readonly personId: number;
	readonly way: Way;
	/** Which turn it waits for; 0 leaves at once. */
	readonly step: number;
	readonly adult: boolean;
}

/** Of whom a copy speaks and by whom it is read, as coverage sees it. It follows its copy; there are hundreds of thousands. */
export class CopyOfStudent implements StudentDelivery {
	constructor(
		readonly copy: Copy,
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

/** Columns of {@link CopyStanding}, as they are read and as they are called then. */
const standing = `state, read_at, left_at, strength, (${isUnsure}) AS unsure`;
const standingNames = 'state, read_at, left_at, strength, unsure';

/** The copies of some dispatches, by delivery. */
export async function copiesIn(db: Query, bind: These): Promise<Map<number, Copy>> {
	const copies = await readMany(
		db,
		`id, dispatch_id, person_id, way, step, adult, ${standingNames}`,
		`FROM (SELECT delivery.id, dispatch_id, person_id, way, step, kind = 'adult' AS adult, ${standing}
			FROM delivery JOIN person ON person.id = person_id WHERE ${inThese})`,
		copyOf,
		bind
	);
	return new Map(copies.map((copy) => [copy.id, copy]));
}

const copyOf = (v: readonly Value[]): Copy => ({
	id: v[0] as number,
	dispatchId: v[1] as number,
	personId: v[2] as number,
	way: v[3] as Way,
	step: v[4] as number,
	adult: v[5] === 1,
	state: v[6] as DeliveryState,
	readAt: v[7] as number | null,
	leftAt: v[8] as number | null,
	strength: v[9] as Strength,
	unsure: v[10] === 1
});

/** How a copy stands anew, by its delivery. */
export interface StandsAnew extends CopyStanding {
	readonly id: number;
}

/** How the copies of a dispatch stand of which events tell that came after `since`: from the few new events by their numbers (another index would be gone through from end to end), however many copies it has. */
export const standAnew = (
	db: Query,
	bind: { readonly id: number; readonly since: number }
): Promise<StandsAnew[]> =>
	readMany(
		db,
		`id, ${standingNames}`,
		`FROM (SELECT delivery.id, ${standing} FROM (SELECT DISTINCT delivery_id FROM event NOT INDEXED WHERE id > $since)
			CROSS JOIN delivery ON delivery.id = delivery_id WHERE dispatch_id = $id)`,
		([id, state, readAt, leftAt, strength, unsure]) => ({
			id: id as number,
			state: state as DeliveryState,
			readAt: readAt as number | null,
			leftAt: leftAt as number | null,
			strength: strength as Strength,
			unsure: unsure === 1
		}),
		{ ...bind }
	);

/** Another reader of a delivery, beside the one it is addressed to. */
type AlsoReads = Pick<DeliveryAlsoRow, 'personId'> & {
	readonly id: DeliveryAlsoRow['deliveryId'];
	readonly adult: number;
};

/** Of whom the copies of some dispatches speak, as it stands in their rows. */
interface Speaks {
	/** Delivery and student. */
	readonly pairs: readonly (readonly [number, number])[];
	readonly also: readonly AlsoReads[];
}

/** Reads of whom the copies of some dispatches speak. */
export async function speaksIn(db: Query, bind: These): Promise<Speaks> {
	const [pairs, also] = await Promise.all([
		readMany(
			db,
			'delivery_id, student_id',
			`FROM delivery_student JOIN delivery ON delivery.id = delivery_id WHERE ${inThese}`,
			(values) => values as [number, number],
			bind
		),
		db.all<AlsoReads>(
			`SELECT delivery_id AS id, delivery_also.person_id AS personId, kind = 'adult' AS adult
			FROM delivery_also JOIN delivery ON delivery.id = delivery_id
			JOIN person ON person.id = delivery_also.person_id WHERE ${inThese}`,
			bind
		)
	]);
	return { pairs, also };
}

/** Of whom the copies speak and by whom they are read, by dispatch; each follows its copy. */
export function deliveriesOf(
	copies: ReadonlyMap<number, Copy>,
	speaks: Speaks
): Map<number, CopyOfStudent[]> {
	const also = groupBy(speaks.also, (a) => a.id);
	const deliveries = new Map<number, CopyOfStudent[]>();
	for (const [id, studentId] of speaks.pairs) {
		// One that was planned between the two reads is counted with the plan that it belongs to.
		const copy = copies.get(id);
		if (!copy) continue;
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
