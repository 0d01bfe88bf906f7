import { join } from 'node:path';
import { createTransport } from 'nodemailer';
import { simpleParser } from 'mailparser';
import { SMTPServer, type SMTPServerEnvelopeDSN } from 'smtp-server';
import { serve, port } from '../http';
import { journal } from '../journal';
import { writeNotification, type NotificationInput } from './dsn';

/**
 * The mailhouse: every family's mail system in one process. It takes letters by SMTP, keeps them,
 * refuses those for mailboxes that are set to fail, and sends delivery status notifications back by
 * SMTP to each letter's return address.
 */

/** How a mailbox fails: `refuse` at once with 550, `return` later by a notification, `later` with 451 until it is cleared, `full` with 452. */
const faults = ['refuse', 'return', 'later', 'full'] as const;
type Fault = (typeof faults)[number];

interface Letter {
	readonly number: number;
	readonly to: string;
	readonly returnAddress: string;
	readonly date: string;
	readonly messageId: string;
	readonly raw: string;
	/** A letter with this Message-ID was already in the mailbox: taken, counted, not put in a second time (the duplicate test of RFC 7352 in its plainest form). */
	readonly repeat: boolean;
	/** What is said back about it, with its date as text; null where nothing was asked for. */
	readonly notice: (Omit<NotificationInput, 'date'> & { readonly date: string }) | null;
}

const folder = process.env.STANDIN_DATA ?? 'data/standin';
const smtpPort = port('MAILHOUSE_SMTP_PORT', 2525);
const httpPort = port('MAILHOUSE_HTTP_PORT', 2580);
const returnPort = port('MAILHOUSE_RETURN_PORT', 2526);

const letters = journal<Letter>(join(folder, 'letters.jsonl'));
const settings = journal<{ mailbox: string; fault: Fault | null }>(join(folder, 'mailboxes.jsonl'));
const faultOf = new Map<string, Fault>();
const setFault = (mailbox: string, fault: Fault | null) => {
	if (fault) faultOf.set(mailbox, fault);
	else faultOf.delete(mailbox);
};
settings.rows.forEach((s) => setFault(s.mailbox, s.fault));
const seen = new Set(letters.rows.map((l) => `${l.to} ${l.messageId}`));

/** Letters of which the notification has been taken; a mail system's queue outlives a kill. */
const notified = journal<number>(join(folder, 'notified.jsonl'));

/** Notifications that wait for the courier to take them. */
interface Outgoing {
	readonly number: number;
	readonly notice: NotificationInput;
}
const told = new Set(notified.rows);
const outgoing: Outgoing[] = letters.rows.flatMap(({ number, notice }) =>
	notice && !told.has(number)
		? [{ number, notice: { ...notice, date: new Date(notice.date) } }]
		: []
);
const back = createTransport({
	host: '127.0.0.1',
	port: returnPort,
	secure: false,
	ignoreTLS: true,
	pool: true,
	maxConnections: 16,
	maxMessages: Infinity
});
let sendingBack = false;

async function sendBack(): Promise<void> {
	if (sendingBack) return;
	sendingBack = true;
	while (outgoing.length > 0) {
		const group = outgoing.slice(0, 60);
		const results = await Promise.all(
			group.map(({ notice: n }) =>
				back.sendMail({ envelope: { from: '', to: [n.to] }, raw: writeNotification(n) }).then(
					() => true,
					(error: { responseCode?: number }) => (error.responseCode ?? 0) >= 500
				)
			)
		);
		group.forEach((g, i) => results[i] && notified.add(g.number));
		outgoing.splice(0, group.length, ...group.filter((_, i) => !results[i]));
		if (results.includes(false)) await new Promise((r) => setTimeout(r, 500));
	}
	sendingBack = false;
}

const refusal = (code: number, text: string) =>
	Object.assign(new Error(text), { responseCode: code });

const smtp = new SMTPServer({
	name: 'mailhouse.example',
	banner: 'mailhouse stand-in',
	disabledCommands: ['AUTH', 'STARTTLS'],
	disableReverseLookup: true,
	hideDSN: false,
	size: 40_000_000,
	onRcptTo({ address }, _session, done) {
		switch (faultOf.get(address.toLowerCase())) {
			case 'refuse':
				return done(refusal(550, '5.1.1 no such mailbox here'));
			case 'later':
				return done(refusal(451, '4.3.2 not taking mail now'));
			case 'full':
				return done(refusal(452, '4.2.2 mailbox full'));
			default:
				done();
		}
	},
	onData(stream, session, done) {
		const chunks: Buffer[] = [];
		stream.on('data', (chunk: Buffer) => chunks.push(chunk));
		stream.on('end', () => {
			const raw = Buffer.concat(chunks);
			try {
				keep(raw, session.envelope as never);
				done(null, '2.0.0 taken');
			} catch (error) {
				done(refusal(451, `4.3.0 ${(error as Error).message}`));
			}
		});
	}
});

interface Envelope {
	mailFrom: { address: string } | false;
	rcptTo: { address: string; dsn?: { notify?: string[] } }[];
	dsn?: SMTPServerEnvelopeDSN;
}

function keep(raw: Buffer, envelope: Envelope): void {
	const returnAddress = envelope.mailFrom ? envelope.mailFrom.address : '';
	const head = raw
		.subarray(0, raw.indexOf('\r\n\r\n'))
		.toString('latin1')
		.replace(/\r\n[ \t]+/g, ' ');
	const field = (name: string) =>
		new RegExp(`^${name}:\\s*(.*)$`, 'im').exec(head)?.[1]?.trim() ?? '';
	const messageId = field('Message-ID');
	const date = new Date(Date.parse(field('Date')) || 0);
	for (const recipient of envelope.rcptTo) {
		const to = recipient.address.toLowerCase();
		const fault = faultOf.get(to);
		const repeat = seen.has(`${to} ${messageId}`);
		seen.add(`${to} ${messageId}`);
		const wanted = (recipient.dsn?.notify ?? ['FAILURE']).map((n) => n.toUpperCase());
		const common = {
			to: returnAddress,
			recipient: to,
			messageId,
			envelopeId: envelope.dsn?.envid ?? '',
			date: date.toISOString()
		};
		const notice: Letter['notice'] =
			returnAddress === ''
				? null
				: fault === 'return'
					? wanted.includes('FAILURE')
						? {
								...common,
								action: 'failed',
								status: '5.1.1',
								diagnostic: '550 5.1.1 no such mailbox here'
							}
						: null
					: wanted.includes('SUCCESS')
						? {
								...common,
								action: 'delivered',
								status: '2.0.0',
								diagnostic: '250 2.0.0 in the mailbox'
							}
						: null;
		const number = letters.rows.length + 1;
		letters.add({
			number,
			to,
			returnAddress,
			date: date.toISOString(),
			messageId,
			raw: raw.toString('latin1'),
			repeat: repeat || fault === 'return',
			notice
		});
		if (notice) {
			outgoing.push({ number, notice: { ...notice, date } });
			void sendBack();
		}
	}
}

smtp.on('error', () => {
	// A client that hangs up in the middle is the client's affair.
});
await new Promise<void>((resolve, reject) => {
	smtp.once('error', reject);
	smtp.listen(smtpPort, '127.0.0.1', resolve);
});

/** What a list shows of a letter; its headers are read only when somebody looks. */
async function summary({ number, to, date, messageId, repeat, raw }: Letter) {
	const mail = await simpleParser(Buffer.from(raw, 'latin1'));
	return {
		number,
		to,
		from: mail.from?.text ?? '',
		subject: mail.subject ?? '',
		date,
		messageId,
		repeat,
		text: mail.text ?? ''
	};
}

await serve(httpPort, {
	'GET /health': () => ({ letters: letters.rows.length, outgoing: outgoing.length }),
	/** Letters after a number, oldest first; or the newest, with `newest`. */
	'GET /letters': async (url) => {
		const after = Number(url.searchParams.get('after') ?? 0);
		const limit = Math.min(1000, Number(url.searchParams.get('limit') ?? 200));
		const to = url.searchParams.get('to');
		const newest = url.searchParams.get('newest') === '1';
		let list = to ? letters.rows.filter((l) => l.to === to.toLowerCase()) : letters.rows;
		if (after > 0) list = list.filter((l) => l.number > after);
		list = newest ? list.slice(-limit).reverse() : list.slice(0, limit);
		return { count: letters.rows.length, letters: await Promise.all(list.map(summary)) };
	},
	'GET /letter': async (url) => {
		const letter = letters.rows[Number(url.searchParams.get('number')) - 1];
		if (!letter) throw new Error('no letter with this number');
		return { ...(await summary(letter)), raw: letter.raw };
	},
	/** Whoever reads a mailbox answers a letter in it, as mail programs do: to Reply-To, naming it, quoting it below; a picture may go along. */
	'POST /answer': async (_url, body) => {
		const { number, text, picture, from } = body as Record<string, unknown>;
		const letter = letters.rows[Number(number) - 1];
		if (!letter) throw new Error('no letter with this number');
		if (typeof text !== 'string' || text.length > 5_000) throw new Error('text must be words');
		const mail = await simpleParser(Buffer.from(letter.raw, 'latin1'));
		const to = mail.replyTo?.value[0]?.address;
		if (!to) throw new Error('this letter asks for no answer: it has no Reply-To');
		const messageId = `<answer-${letter.number}-${Date.now()}@mailhouse.example>`;
		const quoted = (mail.text ?? '')
			.split('\n')
			.map((line) => `> ${line}`)
			.join('\n');
		await back.sendMail({
			messageId,
			from: typeof from === 'string' ? from : letter.to,
			to,
			envelope: { from: typeof from === 'string' ? from : letter.to, to: [to] },
			subject: `Re: ${mail.subject ?? ''}`,
			inReplyTo: letter.messageId,
			references: letter.messageId,
			text: `${text}\n\nOn ${letter.date.slice(0, 10)} ${mail.from?.text ?? ''} wrote:\n${quoted}`,
			attachments:
				typeof picture === 'string'
					? [{ filename: 'picture.png', content: Buffer.from(picture, 'base64') }]
					: []
		});
		return { messageId, to };
	},
	'GET /mailboxes': () => [...faultOf].map(([mailbox, fault]) => ({ mailbox, fault })),
	'POST /mailboxes': (_url, body) => {
		const { mailbox, fault } = body as { mailbox?: unknown; fault?: unknown };
		if (typeof mailbox !== 'string' || !mailbox.includes('@'))
			throw new Error('mailbox must be an address');
		if (fault !== null && !faults.includes(fault as Fault)) {
			throw new Error(`fault must be null or one of ${faults.join(', ')}`);
		}
		const row = { mailbox: mailbox.toLowerCase(), fault: fault as Fault | null };
		settings.add(row);
		setFault(row.mailbox, row.fault);
		return row;
	}
});
void sendBack();
process.stdout.write(`mailhouse: SMTP on ${smtpPort}, letters at http://localhost:${httpPort}\n`);
