import type { EventKind } from '../../../core/track/evidence';
import { hastyMs } from '../../../core/track/evidence';
import { machineSign, type MachineSign } from '../../../core/track/visitor';
import { now } from '../../clock';
import type { Db, Query } from '../../db/open';
import { record, type Happening } from './record';
import type { Visitor } from './types';
import type { DeliveryRow } from '../../db/models/delivery';

/** So soon after the same request another one is the same visit, ms. */
export const sameVisitMs = 60_000;

/**
 * Writes down that something of these copies was asked for through a private link. It may have been
 * a machine: what speaks for that is said with it, and makes it weak evidence. The same request
 * within a minute is the same visit.
 */
export async function visited(
	db: Db,
	deliveryIds: readonly number[],
	kind: Extract<EventKind, 'link-followed' | 'words-link-followed' | 'picture-loaded'>,
	detail: string,
	visitor: Visitor,
	about: string | null = null
): Promise<void> {
	await db.write(async (tx) => {
		const at = await now(tx);
		const copies = await tx.all<Pick<DeliveryRow, 'id'> & { again: number }>(
			`SELECT delivery.id,
				EXISTS (SELECT 1 FROM event WHERE delivery_id = delivery.id AND kind = $kind
					AND about IS $about AND at > $visit) AS again
			FROM delivery WHERE id IN (SELECT value FROM json_each($ids))`,
			{ ids: JSON.stringify(deliveryIds), kind, about, visit: at - sameVisitMs }
		);
		const happened: Happening[] = [];
		for (const { id, again } of copies) {
			if (again === 1) continue;
			// A picture says little whoever loads it.
			const sign = kind === 'picture-loaded' ? null : await signOfMachine(tx, id, visitor, at);
			happened.push({
				deliveryId: id,
				at,
				kind,
				source: kind === 'picture-loaded' ? 'picture' : 'link',
				detail,
				visitor: visitor.key,
				...(about === null ? {} : { about }),
				...(sign ? { sign, strength: 'weak' as const } : {})
			});
		}
		await record(tx, happened);
	});
}

/** The sign that what was asked for through a copy's link was more likely asked for by a machine; null where nothing speaks for it. */
export async function signOfMachine(
	tx: Query,
	deliveryId: number,
	visitor: Visitor,
	at: number
): Promise<MachineSign | null> {
	const { others, justArrived } = (await tx.one<{ others: number; justArrived: number }>(
		`SELECT EXISTS (SELECT 1 FROM event WHERE delivery_id = delivery.id AND kind = 'delivered'
				AND source = 'notification' AND at > $hasty) AS justArrived,
			(SELECT count(DISTINCT other.person_id) FROM event JOIN delivery AS other ON other.id = delivery_id
				WHERE visitor = $visitor AND at > $visit AND other.person_id != delivery.person_id) AS others
		FROM delivery WHERE id = $id`,
		{ id: deliveryId, visitor: visitor.key, visit: at - sameVisitMs, hasty: at - hastyMs }
	)) ?? { others: 0, justArrived: 0 };
	return (
		machineSign({ ...visitor, othersJustNow: others }) ??
		(justArrived === 1 ? 'just-arrived' : null)
	);
}
