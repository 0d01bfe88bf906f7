import type { WayOut } from '../../../core/roster/way';
import { keptNumber } from '../../../core/format/phone';
import { now } from '../../clock';
import { free } from '../../db/copy-state';
import { delivery } from '../../db/models/delivery';
import type { Query } from '../../db/open';
import { handOver } from './not-theirs';
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
	const { personId, way } = moved;
	const onCopy = (value: string) => (way === 'text' ? (keptNumber(value) ?? value) : value);
	const from = onCopy(moved.from);
	const to = moved.to === null ? null : onCopy(moved.to);
	await tx.run(
		`DELETE FROM delivery_also WHERE person_id = $personId AND delivery_id IN (SELECT id FROM delivery
			WHERE way = $way AND address = $from COLLATE NOCASE AND ${free})`,
		{ personId, way, from }
	);
	const waiting = async () =>
		(
			await tx.all<{ id: number }>(
				`SELECT id FROM delivery WHERE person_id = $personId AND way = $way
					AND address = $from COLLATE NOCASE AND ${free}`,
				{ personId, way, from }
			)
		).map((copy) => copy.id);
	await handOver(tx, await waiting(), [personId]);
	const left = await waiting();
	if (to !== null) {
		for (const id of left) await tx.rows(delivery).change({ id }, { address: to });
		return;
	}
	const at = Math.round(await now(tx));
	await record(
		tx,
		left.map((id) => ({
			...{ deliveryId: id, at, kind: 'stopped' as const, source: 'by hand' as const },
			...{ code: 'unwanted' as const, detail: 'not sent: the address was taken off their file' }
		}))
	);
}
