import { PassThrough, type Readable } from 'node:stream';
import { createTransport } from 'nodemailer';
import { connectionLimit, type ConnectionPool } from './connection-limit';
import { mailOf, type Letter } from './mail-letter';
import { isLoopback, plainNetwork } from './network';
import { noneSet, type Outcome } from './outcome';
import { shortened, sortSmtpError, type SmtpError } from './smtp-reply';

export interface MailGateway {
	send(letter: Letter): Promise<Outcome>;
	/** Whether the mail server answers; null, or why not in plain words. */
	reachable(): Promise<string | null>;
	/** What there is to say of a mail server that works; null where there is nothing. */
	remark(): string | null;
	close(): void;
}

/** Where there is no mail server yet: letters wait, and it is said why. */
export const noMailGateway: MailGateway = {
	send: () => Promise.resolve({ kind: 'unavailable', why: noneSet }),
	reachable: () => Promise.resolve(noneSet),
	remark: () => null,
	close: () => {}
};

/** At how many connections at once at first; most mail servers take a handful from one client (common practice). */
const connections = 4;
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
	const pool = (transport as unknown as { transporter: ConnectionPool }).transporter;
	const limit = connectionLimit(pool, connections);
	transport.use('stream', (mail, done) => {
		const { data, message } = mail as unknown as Sent;
		const { handing } = data;
		if (handing) message.processFunc((input) => watched(input, handing));
		done();
	});
	async function attempt(letter: Letter): Promise<Outcome | 'again'> {
		const handing: Handing = { begun: false, whole: false };
		try {
			const info = (await transport.sendMail({
				...({ handing } as object),
				...mailOf(letter)
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
			return !handing.begun && limit.refusedOne(error) ? 'again' : sortSmtpError(error);
		}
	}

	return {
		async send(letter) {
			limit.tryMore();
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
		remark: limit.remark,
		// What is under way has had its time when this is called.
		close: () => pool.close({ force: true })
	};
}
