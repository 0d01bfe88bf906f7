import { SMTPServer } from 'smtp-server';
import { simpleParser } from 'mailparser';
import { readNotification, type Notification } from '../../core/track/notification';

/** A notification that came back to one return address. */
export interface Returned {
	readonly address: string;
	readonly notification: Notification;
}

/** What takes a notification in: resolves when it is written down. */
export type ReturnHandler = (returned: Returned) => Promise<void>;

const biggestBytes = 2_000_000;

/** Reads a whole message: the machine part of a delivery status notification (RFC 3464), or why there is none. */
export async function readReturned(message: Buffer | string): Promise<Notification> {
	const mail = await simpleParser(message, {
		skipHtmlToText: true,
		skipTextToHtml: true,
		keepDeliveryStatus: true
	});
	const part = mail.attachments.find((a) =>
		/^message\/(global-)?delivery-status$/i.test(a.contentType)
	);
	return part
		? readNotification(part.content.toString('utf8'))
		: { ok: false, why: 'It is no delivery status notification.' };
}

/**
 * Takes mail for the return domain: an SMTP server that accepts letters only for return addresses
 * that exist. The sender hears 250 only when the notification is written down; if that fails it
 * hears 451 and comes again.
 */
export function returnMailServer(
	isOurs: (address: string) => boolean,
	onReturned: ReturnHandler
): SMTPServer {
	return new SMTPServer({
		name: 'courier',
		banner: 'Idle Courier, return mail',
		disabledCommands: ['AUTH', 'STARTTLS'],
		disableReverseLookup: true,
		size: biggestBytes,
		// On stopping, whoever is still connected comes again later.
		closeTimeout: 500,
		onRcptTo(address, _session, done) {
			if (isOurs(address.address)) return done();
			done(Object.assign(new Error('5.1.1 no such return address'), { responseCode: 550 }));
		},
		onData(stream, session, done) {
			const chunks: Buffer[] = [];
			stream.on('data', (chunk: Buffer) => chunks.push(chunk));
			stream.on('end', () => {
				if (stream.sizeExceeded) {
					return done(Object.assign(new Error('5.3.4 too big'), { responseCode: 552 }));
				}
				readReturned(Buffer.concat(chunks))
					.then(async (notification) => {
						for (const { address } of session.envelope.rcptTo) {
							await onReturned({ address, notification });
						}
					})
					.then(
						() => done(null, '2.0.0 written down'),
						() => done(Object.assign(new Error('4.3.0 try again'), { responseCode: 451 }))
					);
			});
		}
	});
}
