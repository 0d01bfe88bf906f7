import {
	readTextReceipt,
	textReceiptOutcome,
	type ReceiptParts
} from '../src/lib/core/track/text-receipt';
import type { Disposition } from '../src/lib/core/track/disposition';
import type { RecipientStatus } from '../src/lib/core/track/notification';
import { deliveryOfReturn } from '../src/lib/server/access/tokens';
import { now } from '../src/lib/server/clock';
import type { Query } from '../src/lib/server/db/open';
import { record, type Happening } from '../src/lib/server/desk/record';
import { takeAnswers, type CameIn } from '../src/lib/server/desk/take-answers';
import { addressFault } from '../src/lib/server/gateway/mail';
import type { Returned } from '../src/lib/server/gateway/return-mail';
import { addressesFail, failAgainAndAgain } from './outcomes';

interface Fault {
	readonly deliveryId: number;
	readonly why: string;
}

const failedIn = (happenings: readonly Happening[]): number[] =>
	happenings.filter((h) => h.kind === 'failed').map((h) => h.deliveryId);

/** What a notification says of one recipient, as evidence; null where it says nothing beyond "sent". */
function statusHappening(
	deliveryId: number,
	at: number,
	{ action, status, text }: RecipientStatus
): Happening | null {
	const base = { deliveryId, at, source: 'notification' as const };
	switch (action) {
		case 'delivered':
			return { ...base, kind: 'delivered', detail: `the mailbox has it (notification, ${status})` };
		case 'failed':
			return { ...base, kind: 'failed', detail: `returned: ${text} (${status})` };
		case 'delayed':
			return {
				...base,
				kind: 'deferred',
				detail: `the mail system still tries: ${text} (${status})`
			};
		case 'relayed':
			return {
				...base,
				kind: 'noted',
				detail: `passed on to a mail system that sends no notifications (${status})`
			};
		case 'expanded':
			return { ...base, kind: 'noted', detail: `passed on to several mailboxes (${status})` };
	}
}

/** What a read receipt says, as evidence. One that a mail program sent of its own accord shows that the letter arrived, and no reader. */
function receiptHappening(deliveryId: number, at: number, d: Disposition): Happening {
	const base = { deliveryId, at, source: 'read receipt' as const };
	const mode = d.byHand ? 'sent by the reader' : 'sent by the mail program by itself';
	switch (d.type) {
		case 'displayed':
			return {
				...base,
				kind: 'receipt',
				detail: `a read receipt says that it was shown (${mode})`,
				strength: d.byHand ? 'strong' : 'weak'
			};
		case 'deleted':
			return { ...base, kind: 'noted', detail: `deleted, perhaps unread (read receipt, ${mode})` };
		case 'dispatched':
			return {
				...base,
				kind: 'noted',
				detail: `passed on by the mail program (read receipt, ${mode})`
			};
		case 'processed':
			return {
				...base,
				kind: 'noted',
				detail: `handled by a program without being shown (read receipt, ${mode})`
			};
	}
}

/**
 * Takes returned mail in, a group at a time. The address it came to says which delivery it is about;
 * one that does not fit the key is nobody's, and what comes twice is kept once.
 */
export async function takeReturned(
	tx: Query,
	key: Buffer,
	group: readonly Returned[]
): Promise<void> {
	const at = await now(tx);
	const happenings: Happening[] = [];
	const faults: Fault[] = [];
	const answers: CameIn[] = [];
	for (const { address, mail } of group) {
		const deliveryId = deliveryOfReturn(key, address);
		if (deliveryId === null) continue;
		switch (mail.kind) {
			case 'notification':
				for (const status of mail.notification.recipients) {
					const happening = statusHappening(deliveryId, at, status);
					if (happening) happenings.push(happening);
					const why = status.action === 'failed' ? addressFault(status.status) : null;
					if (why) faults.push({ deliveryId, why });
				}
				break;
			case 'read receipt':
				happenings.push(receiptHappening(deliveryId, at, mail.disposition));
				break;
			case 'automatic':
				happenings.push({
					deliveryId,
					at,
					kind: 'noted',
					source: 'notification',
					detail: `${mail.why} came back, which settles nothing: “${mail.words}”`
				});
				break;
			case 'answer':
				answers.push({ deliveryId, answer: mail.answer });
		}
	}
	await record(tx, happenings, { once: true });
	await addressesFail(tx, faults, at);
	await failAgainAndAgain(tx, failedIn(happenings), at);
	await takeAnswers(tx, answers, at);
}

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
	const rows = await tx.all<{ id: number; ref: string }>(
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
			detail: `${text} (receipt, ${receipt.state}${code})`
		});
		if (receipt.state === 'UNDELIV') faults.push({ deliveryId, why: text });
	}
	await record(tx, happenings, { once: true });
	await addressesFail(tx, faults, at);
	await failAgainAndAgain(tx, failedIn(happenings), at);
	// What is no receipt cannot become one by coming again.
	return receipts.map((r) => !r || deliveryOf.has(r.messageId));
}
