import { PassThrough, type Readable } from 'node:stream';
import { createTransport } from 'nodemailer';
import { flowed } from '../../core/copy/flowed';
import { matterOf, smtpReplyText } from '../../core/track/status-code';
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
	/** What there is to say of a mail server that works; null where there is nothing. */
	remark(): string | null;
	close(): void;
}

/** At how many connections at once at first; most mail servers take a handful from one client (common practice). */
const connections = 4;
/** After a server allowed fewer, how long until one more is tried, ms. */
const againMs = 600_000;

interface SmtpError extends Error {
	code?: string;
	originalCode?: string;
	responseCode?: number;
	response?: string;
	command?: string;
}

/**
 * Whether a mail server says that it is given too much: congestion, too many at once, a limit on rate (RFC 3463
 * sections 3.5, 3.6 and 3.8). A server that wants this one letter to come again (greylisting, 4.7.1 or in words,
 * common practice) says nothing about the others.
 */
const isBusy = (reply: string): boolean =>
	/\b4\.(4\.5|5\.3|7\.\d+)\b/.test(reply) && !/\b4\.7\.1\b|gr[ae]y-?list/i.test(reply);

/** A reply as it is kept with each copy: a server that talks without end fills no database. */
const shortened = (reply: string): string => reply.trim().slice(0, 200);

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
	const detail = smtpReplyText(reply);
	const said = shortened(reply);
	if (code < 500) return { kind: 'deferred', detail, said, tooMuch: isBusy(reply) };
	// What is said to MAIL FROM is said about our sender, whatever the code.
	const matter = /^MAIL FROM/.test(error.command ?? '') ? 'sender' : matterOf(reply);
	return {
		kind: 'refused',
		detail,
		said,
		code: matter,
		addressFault: matter === 'address' ? detail : null
	};
}

/** Why a provider does not answer, in plain words. */
export function plainNetwork(error: {
	code?: string;
	originalCode?: string;
	message: string;
}): string {
	const codes = `${error.originalCode ?? ''} ${error.code ?? ''}`;
	if (/CERT|SELF_SIGNED|UNABLE_TO_VERIFY|ALTNAME|ERR_TLS/.test(codes)) {
		return 'its certificate cannot be trusted';
	}
	if (/ECONNREFUSED|EHOSTUNREACH|ENETUNREACH/.test(codes)) return 'nothing answers at its address';
	if (/ENOTFOUND|EDNS|EAI_AGAIN/.test(codes)) return 'its address is not known';
	if (/ETIMEDOUT/.test(codes)) return 'it does not answer in time';
	if (/EPROTOCOL/.test(codes)) return 'it did not greet us as it should';
	if (/ETLS/.test(codes)) return 'no safe connection to it can be made';
	return 'the connection to it was lost';
}

/** Whether a provider is on this machine: it may have a certificate of its own. */
export const isLoopback = (url: string): boolean => {
	const { hostname } = new URL(url);
	return /^(localhost|127(\.\d{1,3}){3}|\[::1\])$/.test(hostname);
};

/** How far a letter has come: `begun` once the mail server asked for it, `whole` once all of it was handed over. */
interface Handing {
	begun: boolean;
	whole: boolean;
}

/** Watches a letter go out: an error after its end says nothing about whether it arrived. */
function watched(input: Readable, handing: Handing): Readable {
	const output = new PassThrough();
	input.once('data', () => (handing.begun = true));
	output.once('end', () => (handing.whole = true));
	input.once('error', (error) => output.destroy(error));
	return input.pipe(output);
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

/** The parts of nodemailer's pool that are used here beyond its types. */
interface Pool {
	options: { maxConnections: number };
	_connections: readonly unknown[];
	close(options?: { force?: boolean }): void;
}
interface Sent {
	readonly data: { readonly handing?: Handing };
	readonly message: { processFunc(make: (input: Readable) => Readable): void };
}

/** Who signs our letters, where this end does (DKIM, RFC 6376). */
export interface Dkim {
	readonly domainName: string;
	readonly keySelector: string;
	readonly privateKey: string;
}

/**
 * Speaks SMTP (RFC 5321) to the mail server of the settings, over a few kept connections. Asks for delivery status notifications (RFC 3461) where the server offers them.
 * A server that takes fewer connections says so with 421: then there are fewer from then on.
 */
export function mailGateway(smtpUrl: string, dkim: Dkim | null = null): MailGateway {
	const transport = createTransport({
		url: smtpUrl,
		pool: true,
		maxConnections: connections,
		maxMessages: Infinity,
		// A letter of which nothing has left may take another connection.
		maxRequeues: 2,
		connectionTimeout: 15_000,
		greetingTimeout: 30_000,
		// After the end of the data a server may take ten minutes (RFC 5321 section 4.5.3.2.6): who gives up before sends twice.
		socketTimeout: 610_000,
		// Links and letters hold family names; a server that offers TLS gets it, one on this machine may have a certificate of its own.
		tls: { rejectUnauthorized: !isLoopback(smtpUrl) },
		...(dkim ? { dkim } : {}),
		disableFileAccess: true,
		disableUrlAccess: true
	} as Parameters<typeof createTransport>[0]);
	const pool = (transport as unknown as { transporter: Pool }).transporter;
	transport.use('stream', (mail, done) => {
		const { data, message } = mail as unknown as Sent;
		const { handing } = data;
		if (handing) message.processFunc((input) => watched(input, handing));
		done();
	});
	let most = connections;
	let loweredAt = 0;

	/** Whether a refusal was one of a further connection, while others are there; then there are fewer from now on. */
	function fewerConnections(error: SmtpError): boolean {
		const others = pool._connections.length;
		const refused =
			error.responseCode === 421 || error.code === 'EPROTOCOL' || error.code === 'ECONNECTION';
		if (!refused || others < 1) return false;
		if (most > 1) allow(Math.max(1, Math.min(most - 1, others)));
		return true;
	}
	function allow(n: number): void {
		most = n;
		pool.options.maxConnections = n;
		loweredAt = performance.now();
	}

	async function attempt(letter: Letter): Promise<Outcome | 'again'> {
		const handing: Handing = { begun: false, whole: false };
		try {
			const info = (await transport.sendMail({
				...({ handing } as object),
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
					...(letter.automatic
						? { 'Auto-Submitted': 'auto-generated' }
						: // Written by a person to many: absence notes stay away (common practice; RFC 3834 section 2 names it).
							{ Precedence: 'bulk' })
				}
			})) as { response: string };
			return {
				kind: 'accepted',
				detail: 'the mail server took it',
				said: shortened(info.response)
			};
		} catch (thrown) {
			const error = thrown as SmtpError;
			if (handing.whole && !error.responseCode) {
				return { kind: 'unanswered', why: plainNetwork(error) };
			}
			return !handing.begun && fewerConnections(error) ? 'again' : sortSmtpError(error);
		}
	}

	return {
		async send(letter) {
			// What was too much a while ago may be allowed again.
			if (most < connections && performance.now() - loweredAt > againMs) allow(most + 1);
			for (let tries = 0; tries < connections + 2; tries += 1) {
				const outcome = await attempt(letter);
				if (outcome !== 'again') return outcome;
			}
			return { kind: 'unavailable', why: 'it takes no connection now' };
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
		remark: () =>
			most < connections
				? `it takes ${most === 1 ? 'one connection' : `${most} connections`} at a time, so letters leave more slowly`
				: null,
		// What is under way has had its time when this is called.
		close: () => pool.close({ force: true })
	};
}
