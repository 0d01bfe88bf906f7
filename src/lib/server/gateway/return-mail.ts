import { createHash } from 'node:crypto';
import { simpleParser, type ParsedMail } from 'mailparser';
import { LRUCache } from 'lru-cache';
import { SMTPServer } from 'smtp-server';
import { notByAPerson } from '../../core/track/auto-answer';
import { readDisposition, type Disposition } from '../../core/track/disposition';
import { readNotification, type Notification } from '../../core/track/notification';
import { newWords, plainOf } from './new-words';

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
	/** All of it as it came, quoted parts and signature too; empty where it is the same. */
	readonly whole: string;
	/** What came with it. */
	readonly files: readonly AnswerFile[];
	/** Its own Message-ID, by which an answer to it says what it answers; null where it has none. */
	readonly messageId: string | null;
	/** Message-IDs of the letters it says it belongs to (In-Reply-To, References; RFC 5322 section 3.6.4). */
	readonly answersTo: readonly string[];
	/** Whether it quotes anything. */
	readonly quotes: boolean;
	/** Its Message-ID, or a hash of it where it has none: the same letter comes in once. */
	readonly messageKey: string;
}

/** A file that came with an answer: what its sender calls it, and what it holds. What it is, only that tells. */
export interface AnswerFile {
	readonly name: string;
	readonly content: Uint8Array;
}

/** What can be read in a mail: by a person, and by a machine where it has a part for one. */
interface AsItCame {
	readonly words: string;
	readonly machine: string;
}

/** A mail that came to one of our addresses. */
export interface Returned {
	readonly address: string;
	readonly mail: ReturnedMail;
	readonly asItCame: AsItCame;
}

/** What takes returned mail in: resolves when it is written down. */
export type ReturnHandler = (returned: Returned) => Promise<unknown>;

/** What is taken at all, and how much of it is read: a bounce may hold the whole letter again, below the part for machines. */
const biggestBytes = 60_000_000;
const readBytes = 1_500_000;
/** Of what may bring files along more is read: as much as mail systems let through (25 MB is common practice), grown by a third in base64 (RFC 2045 section 6.8). */
const readBytesWithFiles = 36_000_000;
/** Files of an answer; more are named, and not kept. */
const mostFiles = 20;
const longestText = 20_000;
/** So many servers on its way are a circle (RFC 5321 section 6.3). */
const mostHops = 100;

function textOf(mail: ParsedMail): string {
	return (mail.text ?? '').replace(/\0/g, '').slice(0, longestText);
}

const htmlOf = (mail: ParsedMail): string =>
	mail.html === false ? '' : (mail.html ?? '').replace(/\0/g, '');

/** Files that a person sent along: not the pictures of a signature or a stationery, which come with no name and inside the words. */
const filesOf = (mail: ParsedMail): AnswerFile[] =>
	mail.attachments
		.filter(
			(a) =>
				!/^(message|multipart)\//i.test(a.contentType) &&
				!/^application\/(pgp-signature|pkcs7-signature|x-pkcs7-signature)$/i.test(a.contentType) &&
				!(a.related && a.size < 20_000)
		)
		.slice(0, mostFiles)
		.map((a, i) => ({
			name: (a.filename ?? '').slice(0, 200) || `${i + 1}`,
			content: new Uint8Array(a.content)
		}));

/** So many addresses that are not here one connection asks for: more would be a search for those that are (common practice). */
const mostRefused = 20;

/** More parts than this has no mail that anybody wrote. */
const mostParts = 200;
const longestMachine = 20_000;

/** A mail that nobody will ever read; whoever sent it need not come again with it. */
export class Unreadable extends Error {}

/** A mail, and what can be read in it. */
export interface ReadMail {
	readonly mail: ReturnedMail;
	readonly asItCame: AsItCame;
}

/**
 * Reads a whole message, or its beginning. What cannot be understood is `automatic`, with its first words.
 *
 * @throws Unreadable where it has more parts than a mail can have.
 */
export async function readReturned(
	message: Buffer | string,
	returnPath: string | null = null
): Promise<ReadMail> {
	const raw = typeof message === 'string' ? message : message.toString('latin1');
	if ((raw.match(/^content-type:/gim)?.length ?? 0) > mostParts) {
		throw new Unreadable('too many parts');
	}
	const mail = await simpleParser(message, {
		keepDeliveryStatus: true,
		skipImageLinks: true,
		skipTextToHtml: true,
		skipHtmlToText: true
	});
	// Thousands of empty lines say no more than one, and cost whoever looks for quotes minutes.
	const html = htmlOf(mail);
	const own = textOf(mail);
	const text = (own.trim() === '' ? plainOf(html).slice(0, longestText) : own)
		.replace(/[ \t]+$/gm, '')
		.replace(/\n{4,}/g, '\n\n\n');
	const part = (type: RegExp) => mail.attachments.find((a) => type.test(a.contentType));
	const status = part(/^message\/(global-)?delivery-status$/i);
	const disposition = part(/^message\/(global-)?disposition-notification$/i);
	const complaint = part(/^message\/feedback-report$/i);
	const machine = (status ?? disposition ?? complaint)?.content.toString('utf8') ?? '';
	const subject = (mail.subject ?? '').slice(0, 500);
	const words = `${subject} ${text}`.replace(/\s+/g, ' ').trim().slice(0, 200);
	return {
		mail: kindOf(),
		asItCame: {
			words: [subject, text].filter(Boolean).join('\n\n').slice(0, longestText),
			machine: machine.replace(/\0/g, '').slice(0, longestMachine)
		}
	};

	function kindOf(): ReturnedMail {
		if (status) {
			const notification = readNotification(machine);
			return notification.ok
				? { kind: 'notification', notification }
				: { kind: 'automatic', why: notification.why, words };
		}
		if (disposition) {
			const read = readDisposition(machine);
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
		const automatic = notByAPerson({
			header: (name) => lines(name)[0] ?? '',
			returnPath,
			parts: mail.attachments.map((a) => a.contentType.toLowerCase())
		});
		if (automatic) return { kind: 'automatic', why: automatic, words };
		const from = mail.from?.value[0];
		const { words: fresh, quotes } = newWords(own, html);
		const answersTo = [mail.inReplyTo ?? '', ...[mail.references ?? []].flat()]
			.flatMap((ids) => ids.match(/<[^<>\s]{3,250}>/g) ?? [])
			.slice(0, 50);
		return {
			kind: 'answer',
			answer: {
				fromName: (from?.name ?? '').slice(0, 200),
				fromAddress: (from?.address ?? '').slice(0, 320),
				subject,
				text: fresh.slice(0, longestText),
				whole: fresh === text.trim() ? '' : text.trim(),
				answersTo,
				quotes,
				files: filesOf(mail),
				messageId: /^<[^<>\s]{3,250}>$/.exec(mail.messageId ?? '')?.[0] ?? null,
				messageKey: mail.messageId ?? createHash('sha256').update(message).digest('base64url')
			}
		};
	}
}

/** How what comes is read. */
export interface ReturnParts {
	readonly read: (message: Buffer, returnPath: string) => Promise<ReadMail>;
	/** Whether files may come to an address: then all of a mail is read. */
	readonly takesFiles: (address: string) => boolean;
}

/**
 * Takes mail for the return domain: an SMTP server that accepts letters only for addresses that
 * exist. The sender hears 250 only when what came is written down; if that fails it hears 451 and
 * comes again. Nothing is ever answered by mail (RFC 3834 section 2).
 */
export function returnMailServer(
	isOurs: (address: string) => Promise<boolean>,
	onReturned: ReturnHandler,
	{ read = readReturned, takesFiles = () => false }: Partial<ReturnParts> = {}
): SMTPServer {
	const refused = new LRUCache<string, number>({ max: 1_000 });
	const server = new SMTPServer({
		name: 'courier',
		banner: 'Idle Courier, return mail',
		disabledCommands: ['AUTH', 'STARTTLS'],
		disableReverseLookup: true,
		size: biggestBytes,
		// Some close their side after the last word and still want to hear ours (RFC 9293 section 3.6).
		allowHalfOpen: true,
		// On stopping, whoever is still connected comes again later.
		closeTimeout: 500,
		onRcptTo(address, session, done) {
			const refuse = (code: number, words: string) =>
				done(Object.assign(new Error(words), { responseCode: code }));
			if ((refused.get(session.id) ?? 0) >= mostRefused)
				return refuse(421, '4.7.0 too many addresses that are not here');
			isOurs(address.address).then(
				(ours) => {
					if (ours) return done();
					refused.set(session.id, (refused.get(session.id) ?? 0) + 1);
					refuse(550, '5.1.1 no such return address');
				},
				// The database is busy or gone: the address may well be one.
				() => done(Object.assign(new Error('4.3.0 try again'), { responseCode: 451 }))
			);
		},
		onData(stream, session, done) {
			const chunks: Buffer[] = [];
			let size = 0;
			const most = session.envelope.rcptTo.some(({ address }) => takesFiles(address))
				? readBytesWithFiles
				: readBytes;
			stream.on('data', (chunk: Buffer) => {
				if (size < most) chunks.push(chunk);
				size += chunk.length;
			});
			stream.on('end', () => {
				if (stream.sizeExceeded) {
					return done(Object.assign(new Error('5.3.4 too big'), { responseCode: 552 }));
				}
				const { mailFrom, rcptTo } = session.envelope;
				read(Buffer.concat(chunks), mailFrom ? mailFrom.address : '')
					.then(async (came) => {
						for (const { address } of rcptTo) await onReturned({ address, ...came });
					})
					.then(
						() => done(null, '2.0.0 written down'),
						(error: unknown) =>
							error instanceof Unreadable
								? done(Object.assign(new Error('5.6.0 this cannot be read'), { responseCode: 554 }))
								: done(Object.assign(new Error('4.3.0 try again'), { responseCode: 451 }))
					);
			});
		}
	});
	// The package answers only where both sides are open; one that has said its last word still listens.
	server.server.on('connection', (socket) =>
		Object.defineProperty(socket, 'readyState', {
			get: () => (socket.writable ? 'open' : 'closed')
		})
	);
	return server;
}
