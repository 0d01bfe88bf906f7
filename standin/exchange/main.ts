import { join } from 'node:path';
import { partsOf } from './parts';
import smpp, { type Pdu, type Session } from 'smpp';
import { port, serve } from '../http';
import { journal } from '../journal';

/**
 * The text exchange: a text provider and every family's phone in one process. It speaks SMPP 3.4,
 * keeps the texts, and sends a receipt for each by deliver_sm, again and again until it is taken.
 */

/** How a phone fails: `dead` is not in service, `off` out of reach too long, `refuse` is no valid destination, `busy` is throttled until cleared. */
const faults = ['dead', 'off', 'refuse', 'busy'] as const;
type Fault = (typeof faults)[number];

interface Text {
	readonly id: string;
	readonly number: number;
	readonly to: string;
	readonly from: string;
	readonly text: string;
	readonly reference: number;
	/** Whether the phone shows it. */
	readonly arrived: boolean;
	/** How many submits came with this reference, to this phone, with this text: more than one is a repeat that was told and not shown twice. */
	repeats: number;
}

const folder = process.env.STANDIN_DATA ?? 'data/standin';
const smppPort = port('EXCHANGE_SMPP_PORT', 2775);
const httpPort = port('EXCHANGE_HTTP_PORT', 2780);

const texts = journal<Text>(join(folder, 'texts.jsonl'));
const settings = journal<{ phone: string; fault: Fault | null }>(join(folder, 'phones.jsonl'));
const faultOf = new Map<string, Fault>();
const setFault = (phone: string, fault: Fault | null) => {
	if (fault) faultOf.set(phone, fault);
	else faultOf.delete(phone);
};
settings.rows.forEach((s) => setFault(s.phone, s.fault));
const repeatKey = (to: string, reference: number, text: string) => `${to} ${reference} ${text}`;
const known = new Map(texts.rows.map((t) => [repeatKey(t.to, t.reference, t.text), t]));

interface Receipt {
	readonly text: Text;
	readonly stat: string;
	readonly err: string;
}

/** Those that are signed in, by one account; the newest gets what comes. */
const sessions: Session[] = [];
const newest = (): Session | null => sessions.at(-1) ?? null;
const receipts: Receipt[] = [];
/** Receipts that were handed over and not answered yet; they go out again when the connection breaks. */
const unanswered = new Map<Receipt, Session>();

/** "YYMMDDhhmm" as appendix B of SMPP 3.4 has it. */
const stamp = () => new Date().toISOString().replace(/\D/g, '').slice(2, 12);

function deliverReceipts(): void {
	for (;;) {
		const bound = newest();
		if (!bound || receipts.length === 0 || unanswered.size >= 50) return;
		const receipt = receipts.shift()!;
		unanswered.set(receipt, bound);
		const { text, stat, err } = receipt;
		bound.deliver_sm(
			{
				source_addr: text.to.replace('+', ''),
				destination_addr: text.from,
				esm_class: 0x04,
				short_message: `id:${text.id} sub:001 dlvrd:${stat === 'DELIVRD' ? '001' : '000'} submit date:${stamp()} done date:${stamp()} stat:${stat} err:${err} text:`
			},
			(pdu) => {
				unanswered.delete(receipt);
				if (pdu.command_status === 0) return deliverReceipts();
				receipts.push(receipt);
				setTimeout(deliverReceipts, 100);
			}
		);
	}
}

const textOf = (pdu: Pdu): string => {
	const part = pdu.message_payload ?? pdu.short_message ?? '';
	const message = typeof part === 'string' || Buffer.isBuffer(part) ? part : (part.message ?? '');
	return typeof message === 'string' ? message : message.toString('latin1');
};

function submit(session: Session, pdu: Pdu): void {
	const to = `+${pdu.destination_addr ?? ''}`;
	const fault = faultOf.get(to);
	if (fault === 'busy') return void session.send(pdu.response({ command_status: 0x58 }));
	if (fault === 'refuse' || !/^\+\d{7,15}$/.test(to)) {
		return void session.send(pdu.response({ command_status: 0x0b }));
	}
	const text = textOf(pdu);
	const reference = Number(pdu.user_message_reference ?? 0);
	const before = known.get(repeatKey(to, reference, text));
	if (before) {
		before.repeats += 1;
		return void session.send(pdu.response({ message_id: before.id }));
	}
	const row: Text = {
		id: (texts.rows.length + 1).toString(16).toUpperCase().padStart(8, '0'),
		number: texts.rows.length + 1,
		to,
		from: pdu.source_addr ?? '',
		text,
		reference,
		arrived: fault === undefined,
		repeats: 0
	};
	texts.add(row);
	known.set(repeatKey(to, reference, text), row);
	session.send(pdu.response({ message_id: row.id }));
	receipts.push(
		fault === 'dead'
			? { text: row, stat: 'UNDELIV', err: '001' }
			: fault === 'off'
				? { text: row, stat: 'EXPIRED', err: '027' }
				: { text: row, stat: 'DELIVRD', err: '000' }
	);
	deliverReceipts();
}

/** A text that a phone sends. */
interface FromPhone {
	readonly from: string;
	readonly to: string;
	readonly text: string;
	/** Of a part of a longer text: which it is (3GPP TS 23.040 section 9.2.3.24.1). */
	readonly header?: Buffer;
}
/** Texts that phones send, until they are taken; handed over and not answered they are sent again over the next connection. */
const fromPhones: FromPhone[] = [];
const untaken = new Map<FromPhone, Session>();
let reference = 0;

/** A text as a phone sends it: whole, or in parts. */
function send(from: string, to: string, text: string): void {
	const parts = partsOf(text);
	reference = (reference + 1) % 256;
	fromPhones.push(
		...parts.map((words, i) =>
			parts.length === 1
				? { from, to, text: words }
				: {
						...{ from, to, text: words },
						header: Buffer.from([5, 0, 3, reference, parts.length, i + 1])
					}
		)
	);
	deliverTexts();
}
function deliverTexts(): void {
	const bound = newest();
	if (!bound) return;
	for (const text of fromPhones.splice(0)) {
		untaken.set(text, bound);
		bound.deliver_sm(
			{
				source_addr: text.from.replace('+', ''),
				destination_addr: text.to,
				esm_class: 0x00,
				short_message: text.header ? { udh: text.header, message: text.text } : text.text
			},
			(pdu) => {
				untaken.delete(text);
				if (pdu.command_status === 0) return;
				fromPhones.push(text);
				setTimeout(deliverTexts, 500);
			}
		);
	}
}

/** Who may sign in, and what else is answered (SMPP 3.4 section 5.1.3: 0x0F no such system id, 0x0E wrong password). */
function signInFault(pdu: Pdu): number | null {
	if (pdu.system_id !== (process.env.EXCHANGE_SYSTEM_ID ?? 'courier')) return 0x0f;
	return pdu.password === (process.env.EXCHANGE_PASSWORD ?? 'courier') ? null : 0x0e;
}

/** What a session that has gone never answered goes out again. */
function again<T>(handed: Map<T, Session>, gone: Session, queue: T[]): void {
	for (const [item, session] of handed) {
		if (session !== gone) continue;
		handed.delete(item);
		queue.push(item);
	}
}

const server = smpp.createServer((session) => {
	session.on('bind_transceiver', (pdu: Pdu) => {
		const wrong = signInFault(pdu);
		if (wrong !== null) return void session.send(pdu.response({ command_status: wrong }));
		session.send(pdu.response({ system_id: 'exchange' }));
		sessions.push(session);
		deliverReceipts();
		deliverTexts();
	});
	session.on('submit_sm', (pdu: Pdu) => submit(session, pdu));
	session.on('enquire_link', (pdu: Pdu) => session.send(pdu.response()));
	session.on('unbind', (pdu: Pdu) => {
		session.send(pdu.response());
		session.close();
	});
	session.on('error', () => session.destroy());
	session.on('close', () => {
		const at = sessions.indexOf(session);
		if (at < 0) return;
		sessions.splice(at, 1);
		again(unanswered, session, receipts);
		again(untaken, session, fromPhones);
		deliverReceipts();
		deliverTexts();
	});
});
await new Promise<void>((resolve, reject) => {
	server.once('error', reject);
	server.listen(smppPort, '127.0.0.1', resolve);
});

await serve(httpPort, {
	'GET /health': () => ({
		texts: texts.rows.length,
		receipts: receipts.length + unanswered.size,
		bound: sessions.length > 0
	}),
	'GET /texts': (url) => {
		const after = Number(url.searchParams.get('after') ?? 0);
		const limit = Math.min(1000, Number(url.searchParams.get('limit') ?? 200));
		const to = url.searchParams.get('to');
		const newest = url.searchParams.get('newest') === '1';
		let list: readonly Text[] = to ? texts.rows.filter((t) => t.to === to) : texts.rows;
		if (after > 0) list = list.filter((t) => t.number > after);
		return {
			count: texts.rows.length,
			texts: newest ? list.slice(-limit).reverse() : list.slice(0, limit)
		};
	},
	'GET /phones': () => [...faultOf].map(([phone, fault]) => ({ phone, fault })),
	'POST /phones': (_url, body) => {
		const { phone, fault } = body as { phone?: unknown; fault?: unknown };
		if (typeof phone !== 'string' || !/^\+\d{7,15}$/.test(phone)) {
			throw new Error('phone must be a number such as +12075550143');
		}
		if (fault !== null && !faults.includes(fault as Fault)) {
			throw new Error(`fault must be null or one of ${faults.join(', ')}`);
		}
		const row = { phone, fault: fault as Fault | null };
		settings.add(row);
		setFault(row.phone, row.fault);
		return row;
	},
	/** A phone sends a text back. */
	'POST /say': (_url, body) => {
		const { phone, text } = body as { phone?: unknown; text?: unknown };
		if (typeof phone !== 'string' || !/^\+\d{7,15}$/.test(phone)) {
			throw new Error('phone must be a number such as +12075550143');
		}
		if (typeof text !== 'string' || text === '' || text.length > 1_000) {
			throw new Error('text must be 1 to 1000 characters');
		}
		const last = [...texts.rows].reverse().find((t) => t.to === phone);
		send(phone, last?.from ?? '', text);
		return { sent: true };
	}
});
process.stdout.write(`exchange: SMPP on ${smppPort}, texts at http://localhost:${httpPort}\n`);
