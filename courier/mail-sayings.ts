import type { Disposition } from '../src/lib/core/track/disposition';
import type { RecipientStatus } from '../src/lib/core/track/notification';
import { matterOf } from '../src/lib/core/track/status-code';
import { mailKey } from '../src/lib/core/format/mail-address';
import type { Happening } from '../src/lib/server/desk/track/record';
import { atWrongAddress } from '../src/lib/server/desk/replies/take-answers';
import type { ReturnedMail } from '../src/lib/server/gateway/return-mail';

/** That the address of a copy is at fault, and why, in plain words. */
export interface Fault {
	readonly deliveryId: number;
	readonly why: string;
}

/** What is said of copies, and of which of them the address itself is at fault. */
export interface SaidOfCopies {
	readonly happenings: readonly Happening[];
	readonly faults: readonly Fault[];
}

/** The copies that fail by what is said. */
export const failedIn = (happenings: readonly Happening[]): number[] =>
	happenings.filter((h) => h.kind === 'failed').map((h) => h.deliveryId);

/** Of whom a report speaks: of the mailbox we wrote to, of one that ours was passed on to, or of somebody else. */
function aboutWhom(
	sentTo: string,
	{
		finalRecipient,
		originalRecipient
	}: { finalRecipient: string; originalRecipient: string | null }
): 'ours' | 'passed on' | 'other' {
	const ours = mailKey(sentTo);
	if (mailKey(finalRecipient) === ours) return 'ours';
	return originalRecipient !== null && mailKey(originalRecipient) === ours ? 'passed on' : 'other';
}

/** What a notification says of one recipient, as evidence. What it says of a mailbox other than the one we wrote to settles nothing. */
function statusHappening(
	deliveryId: number,
	sentTo: string,
	at: number,
	said: RecipientStatus
): Happening {
	const { action, status, text, finalRecipient } = said;
	const base = { deliveryId, at, source: 'notification' as const, code: status };
	switch (aboutWhom(sentTo, said)) {
		case 'passed on':
			return {
				...base,
				kind: 'noted',
				code: 'passed-on',
				detail: `the mailbox passes its mail on to ${finalRecipient}: ${action === 'failed' ? `${text} there` : `${action} there`}`,
				said: status
			};
		case 'other':
			return {
				...base,
				kind: 'noted',
				code: 'other-recipient',
				detail: `a report about another address (${finalRecipient}) came back, which settles nothing`,
				said: `${action}, ${status}`
			};
		case 'ours':
	}
	switch (action) {
		case 'delivered':
			return {
				...base,
				kind: 'delivered',
				detail: 'the mailbox has it',
				said: `notification, ${status}`
			};
		case 'failed':
			return {
				...base,
				kind: 'failed',
				code: matterOf(`${status} ${said.diagnostic}`),
				detail: `returned: ${text}`,
				said: status
			};
		case 'delayed':
			return {
				...base,
				kind: 'deferred',
				detail: `the mail system still tries: ${text}`,
				said: status
			};
		case 'relayed':
			return {
				...base,
				kind: 'noted',
				detail: 'passed on to a mail system that sends no notifications',
				said: status
			};
		case 'expanded':
			return { ...base, kind: 'noted', detail: 'passed on to several mailboxes', said: status };
	}
}

/** What a read receipt says, as evidence. One that a mail program sent of its own accord shows that the letter arrived, and no reader. */
function receiptHappening(
	deliveryId: number,
	sentTo: string,
	at: number,
	d: Disposition
): Happening {
	const base = { deliveryId, at, source: 'read receipt' as const, code: d.type };
	if (aboutWhom(sentTo, d) === 'other') {
		return {
			...base,
			kind: 'noted',
			code: 'other-recipient',
			detail: `a read receipt of another address (${d.finalRecipient}) came back, which settles nothing`
		};
	}
	const mode = d.byHand ? 'sent by the reader' : 'sent by the mail program by itself';
	switch (d.type) {
		case 'displayed':
			return {
				...base,
				kind: 'receipt',
				detail: 'a read receipt says that it was shown',
				said: mode,
				strength: d.byHand ? 'strong' : 'weak'
			};
		case 'deleted':
			return {
				...base,
				kind: 'noted',
				detail: 'deleted, perhaps unread',
				said: `read receipt, ${mode}`
			};
		case 'dispatched':
			return {
				...base,
				kind: 'noted',
				detail: 'passed on by the mail program',
				said: `read receipt, ${mode}`
			};
		case 'processed':
			return {
				...base,
				kind: 'noted',
				detail: 'handled by a program without being shown',
				said: `read receipt, ${mode}`
			};
	}
}

/** What a mail about a copy says, as evidence, and where the address itself is at fault. */
export function happeningsOf(
	copy: { readonly id: number; readonly address: string },
	mailbox: 'return' | 'answer',
	mail: Exclude<ReturnedMail, { kind: 'answer' }>,
	at: number
): { happenings: Happening[]; faults: Fault[] } {
	const only = (happening: Happening) => ({ happenings: [happening], faults: [] });
	switch (mail.kind) {
		case 'notification': {
			if (mailbox === 'answer') return only(atWrongAddress(copy.id, at, 'a notification'));
			const { recipients } = mail.notification;
			return {
				happenings: recipients.map((r) => statusHappening(copy.id, copy.address, at, r)),
				faults: recipients.flatMap((r) =>
					r.action === 'failed' &&
					aboutWhom(copy.address, r) === 'ours' &&
					matterOf(`${r.status} ${r.diagnostic}`) === 'address'
						? [{ deliveryId: copy.id, why: r.text }]
						: []
				)
			};
		}
		case 'read receipt':
			return only(
				mailbox === 'answer'
					? atWrongAddress(copy.id, at, 'a read receipt')
					: receiptHappening(copy.id, copy.address, at, mail.disposition)
			);
		case 'automatic':
			return only({
				deliveryId: copy.id,
				at,
				kind: 'noted',
				source: 'notification',
				code: 'automatic',
				detail: `${mail.why} came back, which settles nothing: “${mail.words}”`
			});
	}
}
