import {
	readTextReceipt,
	textReceiptOutcome,
	type ReceiptParts
} from '../src/lib/core/track/text-receipt';
import { now } from '../src/lib/server/clock';
import type { DeliveryRow } from '../src/lib/server/db/models/delivery';
import type { Query } from '../src/lib/server/db/open';
import { record, type Happening } from '../src/lib/server/desk/track/record';
import { addressesFail, failAgainAndAgain } from './outcomes';
import { failedIn, type Fault } from './receipts';

/**
 * Takes text receipts in, a group at a time. A receipt may overtake the answer to its own submit;
 * then its id is not known yet, it is not kept, and the exchange is asked to come again. Returns for
 * each whether it is settled.
 */
export async function takeTextReceipts(
	tx: Query,
	group: readonly ReceiptParts[]
): Promise<boolean[]> {
	const receipts = group.map(readTextReceipt);
	const rows = await tx.all<Pick<DeliveryRow, 'id'> & { ref: string }>(
		`SELECT id, provider_ref AS ref FROM delivery
		WHERE provider_ref IN (SELECT value FROM json_each($refs))`,
		{ refs: JSON.stringify([...new Set(receipts.flatMap((r) => r?.messageId ?? []))]) }
	);
	const deliveryOf = new Map(rows.map((r) => [r.ref, r.id]));
	const at = await now(tx);
	const happenings: Happening[] = [];
	const faults: Fault[] = [];
	for (const receipt of receipts) {
		const deliveryId = receipt ? deliveryOf.get(receipt.messageId) : undefined;
		if (!receipt || deliveryId === undefined) continue;
		const { outcome, text } = textReceiptOutcome[receipt.state];
		const code = receipt.error && !/^0+$/.test(receipt.error) ? ` ${receipt.error}` : '';
		happenings.push({
			deliveryId,
			at,
			source: 'text receipt',
			kind: outcome === 'open' ? 'noted' : outcome,
			detail: text,
			said: `receipt, ${receipt.state}${code}`,
			code: receipt.state
		});
		if (receipt.state === 'UNDELIV') faults.push({ deliveryId, why: text });
	}
	await record(tx, happenings, { once: true });
	await addressesFail(tx, faults, at);
	await failAgainAndAgain(tx, failedIn(happenings), at);
	// What is no receipt cannot become one by coming again.
	return receipts.map((r) => !r || deliveryOf.has(r.messageId));
}
