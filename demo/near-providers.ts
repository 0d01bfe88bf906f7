import { takeReturned } from '../courier/receipts';
import { takeTextReceipts } from '../courier/text-receipts';
import { readNotification } from '../src/lib/core/track/notification';
import type { ReceiptParts } from '../src/lib/core/track/text-receipt';
import type { Db } from '../src/lib/server/db/open';
import type { MailGateway } from '../src/lib/server/gateway/mail';
import { shortened, sortSmtpError } from '../src/lib/server/gateway/smtp-reply';
import type { Returned } from '../src/lib/server/gateway/return-mail';
import type { TextGateway } from '../src/lib/server/gateway/text';
import { notificationAsRead, type NotificationInput } from '../standin/mailhouse/dsn';
import type { District } from './district';

/** Providers within this process, and what they have to say. */
export interface NearProviders {
	readonly mail: MailGateway;
	readonly text: TextGateway;
	/** Hands over what is said of all that was taken, as it would come in. */
	tell(db: Db, key: Buffer): Promise<void>;
}

const refusal = '550 5.1.1 no such mailbox here';

/**
 * What the stand-ins would do, in the same process: they take, refuse and return by the same faults, in the same words,
 * and what they say goes through the same doors. What is long past leaves by them, since nobody will look for its letters
 * in a stand-in, and a newcomer waits for it.
 */
export function nearProviders(faults: District['faults']): NearProviders {
	const mailboxes = new Map<string, string>(faults.mailboxes.map((f) => [f.mailbox, f.fault]));
	const phones = new Map<string, string>(faults.phones.map((f) => [f.phone, f.fault]));
	let mails: Returned[] = [];
	let receipts: ReceiptParts[] = [];
	let texts = 0;
	const mail: MailGateway = {
		send({ to, returnAddress, messageId, date }) {
			const fault = mailboxes.get(to.address.toLowerCase());
			if (fault === 'refuse') {
				const error = { command: 'RCPT TO', responseCode: 550, response: refusal };
				return Promise.resolve(sortSmtpError(Object.assign(new Error(refusal), error)));
			}
			const said: NotificationInput = {
				...{ to: returnAddress, recipient: to.address, messageId, envelopeId: messageId, date },
				...(fault === 'return'
					? { action: 'failed', status: '5.1.1', diagnostic: refusal }
					: { action: 'delivered', status: '2.0.0', diagnostic: '250 2.0.0 in the mailbox' })
			};
			const asItCame = notificationAsRead(said);
			const notification = readNotification(asItCame.machine);
			if (!notification.ok) throw new Error(`a notification of our own says ${notification.why}`);
			mails.push({
				address: returnAddress,
				mail: { kind: 'notification', notification },
				asItCame
			});
			return Promise.resolve({
				...{ kind: 'accepted', detail: 'the mail server took it' },
				said: shortened('250 2.0.0 taken')
			});
		},
		reachable: () => Promise.resolve(null),
		remark: () => null,
		close: () => {}
	};
	const text: TextGateway = {
		start: () => Promise.resolve(),
		down: () => null,
		send({ to }) {
			const fault = phones.get(to);
			texts += 1;
			// No number that the stand-in will give.
			const id = `P${texts.toString(16).toUpperCase().padStart(7, '0')}`;
			const [stat, err] =
				fault === 'dead'
					? ['UNDELIV', '001']
					: fault === 'off'
						? ['EXPIRED', '027']
						: ['DELIVRD', '000'];
			receipts.push({ text: `id:${id} stat:${stat} err:${err} text:` });
			return Promise.resolve({
				...{ kind: 'accepted', detail: 'the text exchange took it' },
				...{ said: `id ${id}`, providerRef: id }
			});
		},
		close: () => Promise.resolve()
	};
	return {
		mail,
		text,
		async tell(db, key) {
			const [came, told] = [mails, receipts];
			[mails, receipts] = [[], []];
			await db.write(async (tx) => {
				await takeReturned(tx, key, came);
				await takeTextReceipts(tx, told);
			});
		}
	};
}
