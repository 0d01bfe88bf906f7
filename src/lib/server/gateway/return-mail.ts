import { createHash } from 'node:crypto';
import EmailReplyParser from 'email-reply-parser';
import { simpleParser, type ParsedMail } from 'mailparser';
import { SMTPServer } from 'smtp-server';
import { notByAPerson } from '../../core/track/auto-answer';
import { readDisposition, type Disposition } from '../../core/track/disposition';
import { readNotification, type Notification } from '../../core/track/notification';

/** What a mail that came back turned out to be. */
export type ReturnedMail =
	| { readonly kind: 'notification'; readonly notification: Extract<Notification, { ok: true }> }
	| { readonly kind: 'read receipt'; readonly disposition: Disposition }
	/** Written by a person. */
	| { readonly kind: 'answer'; readonly answer: MailAnswer }
	/** An absence note, a list, mail of a mail system that says nothing a machine can read. */
	| { readonly kind: 'automatic'; readonly why: string; readonly words: string };

/** An answer as it came in. */
export interface MailAnswer {
	readonly fromName: string;
	readonly fromAddress: string;
	readonly subject: string;
	/** What the person wrote, without what they quote. */
	readonly text: string;
	/** Its Message-ID, or a hash of it where it has none: the same letter comes in once. */
	readonly messageKey: string;
}

/** A mail that came to one of our addresses. */
export interface Returned {
	readonly address: string;
	readonly mail: ReturnedMail;
}

/** What takes returned mail in: resolves when it is written down. */
export type ReturnHandler = (returned: Returned) => Promise<unknown>;

/** What is taken at all, and how much of it is read: a bounce may hold the whole letter again, below the part for machines. */
const biggestBytes = 60_000_000;
const readBytes = 1_500_000;
const longestText = 20_000;
/** So many servers on its way are a circle (RFC 5321 section 6.3). */
const mostHops = 100;

const reader = new EmailReplyParser();

function textOf(mail: ParsedMail): string {
	return (mail.text ?? '').replace(/\0/g, '').slice(0, longestText);
}

/** Reads a whole message, or its beginning. Throws nothing: what cannot be read is `automatic`, with its first words. */
export async function readReturned(
	message: Buffer | string,
	returnPath: string | null = null
): Promise<ReturnedMail> {
	const mail = await simpleParser(message, { keepDeliveryStatus: true, skipImageLinks: true });
	const words = `${mail.subject ?? ''} ${textOf(mail)}`.replace(/\s+/g, ' ').trim().slice(0, 200);
	const part = (type: RegExp) => mail.attachments.find((a) => type.test(a.contentType));
	const status = part(/^message\/(global-)?delivery-status$/i);
	if (status) {
		const notification = readNotification(status.content.toString('utf8'));
		return notification.ok
			? { kind: 'notification', notification }
			: { kind: 'automatic', why: notification.why, words };
	}
	const disposition = part(/^message\/(global-)?disposition-notification$/i);
	if (disposition) {
		const read = readDisposition(disposition.content.toString('utf8'));
		return read.ok
			? { kind: 'read receipt', disposition: read.disposition }
			: { kind: 'automatic', why: read.why, words };
	}
	const lines = (name: string) =>
		mail.headerLines
			.filter((h) => h.key === name)
			.map((h) => h.line.slice(h.line.indexOf(':') + 1).trim());
	if (lines('received').length >= mostHops) {
		return { kind: 'automatic', why: 'mail that goes round in a circle', words };
	}
	const automatic = notByAPerson((name) => lines(name)[0] ?? '', returnPath);
	if (automatic) return { kind: 'automatic', why: automatic, words };
	const from = mail.from?.value[0];
	const text = textOf(mail);
	const fresh = reader.read(text).getVisibleText().trim();
	return {
		kind: 'answer',
		answer: {
			fromName: (from?.name ?? '').slice(0, 200),
			fromAddress: (from?.address ?? '').slice(0, 320),
			subject: (mail.subject ?? '').slice(0, 500),
			text: fresh || text.trim(),
			messageKey: mail.messageId ?? createHash('sha256').update(message).digest('base64url')
		}
	};
}

/**
 * Takes mail for the return domain: an SMTP server that accepts letters only for addresses that
 * exist. The sender hears 250 only when what came is written down; if that fails it hears 451 and
 * comes again. Nothing is ever answered by mail (RFC 3834 section 2).
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
			let size = 0;
			stream.on('data', (chunk: Buffer) => {
				if (size < readBytes) chunks.push(chunk);
				size += chunk.length;
			});
			stream.on('end', () => {
				if (stream.sizeExceeded) {
					return done(Object.assign(new Error('5.3.4 too big'), { responseCode: 552 }));
				}
				const { mailFrom, rcptTo } = session.envelope;
				readReturned(Buffer.concat(chunks), mailFrom ? mailFrom.address : '')
					.then(async (mail) => {
						for (const { address } of rcptTo) await onReturned({ address, mail });
					})
					.then(
						() => done(null, '2.0.0 written down'),
						() => done(Object.assign(new Error('4.3.0 try again'), { responseCode: 451 }))
					);
			});
		}
	});
}
