import { advance, type DeliveryState, type EventKind } from '../../core/track/evidence';
import type { Query } from '../db/open';

/** Something that happened to one delivery. */
export interface Happening {
	readonly deliveryId: number;
	readonly at: number;
	readonly kind: EventKind;
	/** Plain words, shown as they are. */
	readonly detail: string;
}

/**
 * Writes evidence down and moves each delivery on by it, in the caller's transaction. Events are
 * only ever added. A delivery that does not exist (any more) is passed over. Returns how many
 * events were kept.
 */
export async function record(tx: Query, happenings: readonly Happening[]): Promise<number> {
	if (happenings.length === 0) return 0;
	const ids = JSON.stringify([...new Set(happenings.map((h) => h.deliveryId))]);
	const rows = await tx.all<{ id: number; state: DeliveryState }>(
		'SELECT id, state FROM delivery WHERE id IN (SELECT value FROM json_each($ids))',
		{ ids }
	);
	const states = new Map(rows.map((r) => [r.id, r.state]));
	const changed = new Map<number, { state: DeliveryState; at: number }>();
	const kept = happenings.filter((h) => states.has(h.deliveryId));
	for (const { deliveryId, kind, at } of kept) {
		const before = states.get(deliveryId)!;
		const after = advance(before, kind);
		if (after === before) continue;
		states.set(deliveryId, after);
		changed.set(deliveryId, { state: after, at });
	}
	await tx.run(
		`INSERT INTO event (delivery_id, at, kind, detail)
		SELECT value ->> 0, value ->> 1, value ->> 2, value ->> 3 FROM json_each($events)`,
		{ events: JSON.stringify(kept.map((h) => [h.deliveryId, h.at, h.kind, h.detail])) }
	);
	if (changed.size > 0) {
		await tx.run(
			`UPDATE delivery SET state = new.state, state_at = new.at
			FROM (SELECT value ->> 0 AS id, value ->> 1 AS state, value ->> 2 AS at FROM json_each($states)) AS new
			WHERE delivery.id = new.id`,
			{ states: JSON.stringify([...changed].map(([id, c]) => [id, c.state, c.at])) }
		);
	}
	return kept.length;
}
