import type { DispatchKind } from '../../../core/roster/types';
import { now } from '../../clock';
import { free } from '../../db/copy-state';
import type { Query } from '../../db/open';
import { record } from './record';

/** Copies that their reader has asked not to get: by text at a number, or by email or in the inbox of one kind for a person. */
export type Unwanted =
	| { readonly way: 'text'; readonly address: string }
	| {
			readonly way: 'email' | 'inbox';
			readonly personId: number;
			readonly kind: DispatchKind;
	  };

/**
 * Stops what waits to leave for somebody who has just asked for no more of it; an urgent one goes
 * over a declined kind, never over a stopped number. What a provider has in hand can no longer be
 * stopped. In the caller's transaction.
 */
export async function stopPending(tx: Query, unwanted: Unwanted, why: string): Promise<void> {
	const rows = await tx.all<{ id: number }>(
		unwanted.way === 'text'
			? `SELECT id FROM delivery WHERE way = 'text' AND address = $address COLLATE NOCASE
				AND ${free}`
			: `SELECT delivery.id FROM delivery JOIN dispatch ON dispatch.id = dispatch_id
				WHERE delivery.way = $way AND person_id = $personId AND kind = $kind AND NOT passes_over
					AND ${free}`,
		unwanted.way === 'text'
			? { address: unwanted.address }
			: { way: unwanted.way, personId: unwanted.personId, kind: unwanted.kind }
	);
	const at = await now(tx);
	await record(
		tx,
		rows.map(({ id }) => ({
			deliveryId: id,
			at,
			kind: 'stopped',
			source: 'by hand',
			code: 'unwanted',
			detail: why
		}))
	);
}
