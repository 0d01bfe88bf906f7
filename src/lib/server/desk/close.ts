import type { Query } from '../db/open';

/** A dispatch is sent when none of its copies is still to leave. */
export async function closeDispatches(
	tx: Query,
	dispatchIds: readonly number[],
	at: number
): Promise<void> {
	await tx.run(
		`UPDATE dispatch SET state = 'sent', sent_at = $at
		WHERE id IN (SELECT value FROM json_each($ids)) AND state = 'scheduled'
			AND NOT EXISTS (SELECT 1 FROM delivery WHERE dispatch_id = dispatch.id
				AND delivery.state IN ('held', 'planned'))`,
		{ ids: JSON.stringify([...new Set(dispatchIds)]), at }
	);
}
