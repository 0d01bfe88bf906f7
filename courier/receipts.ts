import { readTextReceipt, textReceiptOutcome } from '../src/lib/core/track/text-receipt';
import { deliveryOfReturn } from '../src/lib/server/access/tokens';
import { now } from '../src/lib/server/clock';
import type { Query } from '../src/lib/server/db/open';
import { record, type Happening } from '../src/lib/server/desk/record';
import { addressFault } from '../src/lib/server/gateway/mail';
import type { Returned } from '../src/lib/server/gateway/return-mail';
import { addressesFail } from './outcomes';

/** Keeps a happening unless the same has been kept before: providers repeat themselves. */
async function keepOnce(tx: Query, happening: Happening): Promise<boolean> {
	const same = await tx.one(
		`SELECT 1 FROM event WHERE delivery_id = $id AND kind = $kind AND detail = $detail`,
		{ id: happening.deliveryId, kind: happening.kind, detail: happening.detail }
	);
	if (same) return false;
	return (await record(tx, [happening])) === 1;
}

/** Takes a delivery status notification in. The return address says which delivery it is about; one that does not fit the key is nobody's. */
export async function takeNotification(tx: Query, key: Buffer, returned: Returned): Promise<void> {
	const deliveryId = deliveryOfReturn(key, returned.address);
	const { notification } = returned;
	if (deliveryId === null || !notification.ok) return;
	const at = await now(tx);
	for (const { action, status, text } of notification.recipients) {
		switch (action) {
			case 'delivered':
				await keepOnce(tx, {
					deliveryId,
					at,
					kind: 'delivered',
					detail: `the mailbox has it (notification, ${status})`
				});
				break;
			case 'failed': {
				await keepOnce(tx, {
					deliveryId,
					at,
					kind: 'failed',
					detail: `returned: ${text} (${status})`
				});
				const why = addressFault(status);
				if (why) await addressesFail(tx, [{ deliveryId, why }], at);
				break;
			}
			case 'delayed':
				await keepOnce(tx, {
					deliveryId,
					at,
					kind: 'deferred',
					detail: `the mail system still tries: ${text} (${status})`
				});
				break;
			case 'relayed':
			case 'expanded':
				// It left for a system that sends no notifications: nothing is known beyond "sent".
				break;
		}
	}
}

/**
 * Takes a text receipt in. A receipt may overtake the answer to its own submit; then its id is not
 * known yet, it is not kept, and the exchange is asked to come again.
 */
export async function takeTextReceipt(tx: Query, receiptText: string): Promise<boolean> {
	const receipt = readTextReceipt(receiptText);
	// What is no receipt cannot become one by coming again.
	if (!receipt) return true;
	const delivery = await tx.one<{ id: number }>(
		'SELECT id FROM delivery WHERE provider_ref = $ref',
		{ ref: receipt.messageId }
	);
	if (!delivery) return false;
	const { outcome, text } = textReceiptOutcome[receipt.state];
	if (outcome === 'open') return true;
	const at = await now(tx);
	const code = receipt.error && receipt.error !== '000' ? ` ${receipt.error}` : '';
	await keepOnce(tx, {
		deliveryId: delivery.id,
		at,
		kind: outcome,
		detail: `${text} (receipt, ${receipt.state}${code})`
	});
	if (receipt.state === 'UNDELIV') {
		await addressesFail(tx, [{ deliveryId: delivery.id, why: text }], at);
	}
	return true;
}
