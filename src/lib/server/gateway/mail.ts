import { createTransport } from 'nodemailer';
import { flowed } from '../../core/copy/flowed';
import { readStatusCode, smtpReplyText } from '../../core/track/status-code';
import type { Outcome } from './outcome';

/** One email, to one person. */
export interface Letter {
	readonly messageId: string;
	readonly date: Date;
	readonly from: { readonly name: string; readonly address: string };
	readonly to: { readonly name: string; readonly address: string };
	/** Where notifications of this one copy come back to. */
	readonly returnAddress: string;
	/** Where answers go (Reply-To); null for the From address. */
	readonly replyTo: { readonly name: string; readonly address: string } | null;
	readonly subject: string;
	readonly html: string;
	/** Paragraphs on one line each. */
	readonly text: string;
	/** BCP 47 tag. */
	readonly language: string;
	/** Pictures that the HTML shows, each named by its Content-ID. */
	readonly pictures: readonly (MailFile & { readonly cid: string })[];
	readonly attached: readonly MailFile[];
	/** Address by which the reader gets no more of this kind; null where none is due. */
	readonly stopLink: string | null;
	/** Whether the reader's mail program is asked to say that the letter was shown (RFC 8098 section 2.1). */
	readonly askReceipt?: boolean;
	/** Whether a machine wrote it by itself (Auto-Submitted, RFC 3834 section 5). */
	readonly automatic?: boolean;
}

export interface MailFile {
	readonly name: string;
	readonly type: string;
	readonly content: Buffer;
}

export interface MailGateway {
	send(letter: Letter): Promise<Outcome>;
	/** Whether the mail server answers; null, or why not in plain words. */
	reachable(): Promise<string | null>;
	close(): void;
}

/** At how many connections at once; most mail servers take a handful from one client (common practice). */
const connections = 4;

/** Codes that mean that the address itself is no good: RFC 3463 sections 3.2 and 3.3. */
const addressCodes = new Set(['1.1', '1.2', '1.3', '1.6', '2.1']);

/** The fault of the address in plain words where a permanent code names one, else null. */
export function addressFault(status: string): string | null {
	const code = readStatusCode(status);
	return code?.class === 5 && addressCodes.has(code.rest) ? code.text : null;
}

interface SmtpError extends Error {
	code?: string;
	responseCode?: number;
	response?: string;
	command?: string;
}

/** Codes by which a mail server says that it is given too much: congestion, too many at once, policy on rate (RFC 3463 sections 3.5, 3.6 and 3.8). */
const busyCodes = /\b4\.(4\.5|5\.3|7\.\d+)\b/;

/** Sorts a failed attempt. A reply to RCPT TO or DATA is about the copy; anything before that is about the server. */
export function sortSmtpError(error: SmtpError): Outcome {
	const reply = error.response ?? '';
	const code = error.responseCode ?? 0;
	const aboutCopy = /^(RCPT TO|DATA|MAIL FROM|API)/.test(error.command ?? '') && code >= 400;
	if (!aboutCopy || code === 421) {
		return {
			kind: 'unavailable',
			why: error.code === 'EAUTH' ? 'it refused our sign-in' : plainNetwork(error)
		};
	}
	const detail = `${smtpReplyText(reply)} (${reply.trim().slice(0, 200)})`;
	return code < 500
		? { kind: 'deferred', detail, tooMuch: busyCodes.test(reply) }
		: { kind: 'refused', detail, addressFault: addressFault(reply) };
}

/** Why a provider does not answer, in plain words. */
export function plainNetwork(error: { code?: string; message: string }): string {
	switch (error.code) {
		case 'ECONNREFUSED':
		case 'ESOCKET':
			return 'nothing answers at its address';
		case 'ETIMEDOUT':
		case 'ECONNECTION':
			return 'it does not answer in time';
		case 'ENOTFOUND':
		case 'EDNS':
			return 'its address is not known';
		default:
			return error.message;
	}
}

/**
 * The parts of a letter: plain text that can be flowed to any width (RFC 3676) beside HTML (RFC
 * 2046 section 5.1.4), its pictures related to it (RFC 2387), files with their names (RFC 2183).
 */
function bodyParts(letter: Letter) {
	return {
		alternatives: [
			{
				contentType: 'text/plain; charset=utf-8; format=flowed',
				content: flowed(letter.text)
			},
			{ contentType: 'text/html; charset=utf-8', content: letter.html }
		],
		attachments: [
			...letter.pictures.map((p) => ({
				filename: p.name,
				contentType: p.type,
				content: p.content,
				cid: p.cid,
				contentDisposition: 'inline' as const
			})),
			...letter.attached.map((f) => ({
				filename: f.name,
				contentType: f.type,
				content: f.content,
				contentDisposition: 'attachment' as const
			}))
		]
	};
}

/** By which a mail program offers to stop (RFC 2369 section 3.2), in one step without opening a page (RFC 8058 section 3.1). */
const stopHeaders = (link: string | null): Record<string, string> =>
	link
		? { 'List-Unsubscribe': `<${link}>`, 'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click' }
		: {};

/** Speaks SMTP (RFC 5321) to the mail server of the settings, over a few kept connections. Asks for delivery status notifications (RFC 3461) where the server offers them. */
export function mailGateway(smtpUrl: string): MailGateway {
	const transport = createTransport({
		url: smtpUrl,
		pool: true,
		maxConnections: connections,
		maxMessages: Infinity,
		connectionTimeout: 10_000,
		greetingTimeout: 10_000,
		socketTimeout: 60_000,
		// Links and letters hold family names; a server that offers TLS gets it, one on this machine may have a certificate of its own.
		tls: { rejectUnauthorized: !/localhost|127\.0\.0\.1/.test(smtpUrl) },
		disableFileAccess: true,
		disableUrlAccess: true
	} as Parameters<typeof createTransport>[0]);
	return {
		async send(letter) {
			try {
				const info = (await transport.sendMail({
					messageId: letter.messageId,
					date: letter.date,
					from: letter.from,
					to: letter.to,
					envelope: { from: letter.returnAddress, to: [letter.to.address] },
					dsn: { notify: ['success', 'failure', 'delay'], return: 'headers', id: letter.messageId },
					...(letter.replyTo ? { replyTo: letter.replyTo } : {}),
					subject: letter.subject,
					...bodyParts(letter),
					headers: {
						'Content-Language': letter.language,
						...stopHeaders(letter.stopLink),
						// The same address as the return path, or mail programs ask their reader twice (RFC 8098 section 2.1).
						...(letter.askReceipt
							? { 'Disposition-Notification-To': `<${letter.returnAddress}>` }
							: {}),
						...(letter.automatic ? { 'Auto-Submitted': 'auto-generated' } : {})
					}
				})) as { response: string };
				return { kind: 'accepted', detail: `the mail server took it (${info.response.trim()})` };
			} catch (error) {
				return sortSmtpError(error as SmtpError);
			}
		},
		async reachable() {
			try {
				await transport.verify();
				return null;
			} catch (error) {
				const sorted = sortSmtpError(error as SmtpError);
				return sorted.kind === 'unavailable' ? sorted.why : null;
			}
		},
		close: () => transport.close()
	};
}
