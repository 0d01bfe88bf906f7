import type { WayOut } from '../../../core/roster/way';
import { toE164 } from '../../../core/format/phone';
import { now } from '../../clock';
import { free } from '../../db/copy-state';
import { delivery, deliveryAlso } from '../../db/models/delivery';
import type { Query } from '../../db/open';
import { record } from '../track/record';

/**
 * What waits for somebody at an address that is no longer theirs goes to their new one; where others
 * read the same copy at the old one it becomes theirs, and where there is nobody it is stopped. What
 * is scheduled and not yet settled is worked out again in any case.
 */
export async function addressMoved(
	tx: Query,
	moved: {
		readonly personId: number;
		readonly way: WayOut;
		readonly from: string;
		/** Null where they have none in its place. */
		readonly to: string | null;
	}
): Promise<void> {
	const { personId, way, to } = moved;
	const from = way === 'text' ? (toE164(moved.from) ?? moved.from) : moved.from;
	await tx.run(
		`DELETE FROM delivery_also WHERE person_id = $personId AND delivery_id IN (SELECT id FROM delivery
			WHERE way = $way AND address = $from COLLATE NOCASE AND ${free})`,
		{ personId, way, from }
	);
	const copies = await tx.all<{ id: number; heir: number | null }>(
		`SELECT delivery.id, (SELECT min(person_id) FROM delivery_also WHERE delivery_id = delivery.id) AS heir
		FROM delivery WHERE person_id = $personId AND way = $way AND address = $from COLLATE NOCASE AND ${free}`,
		{ personId, way, from }
	);
	const at = Math.round(await now(tx));
	for (const { id, heir } of copies) {
		if (heir !== null) {
			await tx.rows(deliveryAlso).remove({ deliveryId: id, personId: heir });
			await tx.rows(delivery).change({ id }, { personId: heir });
		} else if (to !== null) await tx.rows(delivery).change({ id }, { address: to });
	}
	if (to !== null) return;
	await record(
		tx,
		copies
			.filter((c) => c.heir === null)
			.map(({ id }) => ({
				...{ deliveryId: id, at, kind: 'stopped' as const, source: 'by hand' as const },
				...{ code: 'unwanted' as const, detail: 'not sent: the address was taken off their file' }
			}))
	);
}
