import smpp, { type Pdu, type Session } from 'smpp';
import { septetOctets } from '../../core/copy/gsm7';
import { partOfHeader, partOfParameters, type TextPart } from '../../core/talk/text-parts';
import { readTextReceipt, type ReceiptParts } from '../../core/track/text-receipt';
import { isLoopback, plainNetwork } from './network';
import { noneSet, type Outcome } from './outcome';

/** One text message, to one number. */
export interface TextMessage {
	/** E.164, with the plus sign. */
	readonly to: string;
	readonly from: string;
	readonly text: string;
	/** Sixteen bits that are the same at each try of the same copy (user_message_reference, SMPP 3.4 section 5.3.2.17), by which the exchange can tell a repeat. */
	readonly reference: number;
}

export interface TextGateway {
	/** Connects and binds, and binds again whenever the connection is lost. Resolves when the first try has ended, well or not. */
	start(): Promise<void>;
	/** Null while bound, else why not in plain words. */
	down(): string | null;
	send(message: TextMessage): Promise<Outcome>;
	close(): Promise<void>;
}

/** A text that came in from a phone. */
export interface IncomingText {
	/** The phone's number as the exchange gives it. */
	readonly from: string;
	readonly to: string;
	readonly words: string;
	/** Which part of a longer text it is; nothing where it is whole. */
	readonly part?: TextPart;
}

/** What takes in what comes from the exchange: a receipt, or a text from a phone. Resolves to whether it was kept; what was not kept is sent again. */
export type ReceiptHandler = (came: ReceiptParts | IncomingText) => Promise<boolean>;

/** Which kind of message a deliver_sm carries, bits 5 to 2 of esm_class (SMPP 3.4 section 5.2.12): none of them is a text from a phone. */
const receiptBits = 0x3c;

/** Where there is no text provider: texts wait, and it is said why. */
export const noTextGateway: TextGateway = {
	start: () => Promise.resolve(),
	down: () => noneSet,
	send: () => Promise.resolve({ kind: 'unavailable', why: noneSet }),
	close: () => Promise.resolve()
};

const reconnectMs = 1_000;
const answerTimeoutMs = 30_000;

/** Command status values (SMPP 3.4 section 5.1.3). */
const status = {
	ok: 0x00,
	invalidDestination: 0x0b,
	queueFull: 0x14,
	throttled: 0x58,
	tryLater: 0x64,
	systemError: 0x08
} as const;

/** The octets of a text: one septet an octet for the default alphabet (data_coding 0), UTF-16 big-endian for the other (data_coding 8). */
export function encodeText(text: string): { dataCoding: 0 | 8; octets: Buffer } {
	const septets = septetOctets(text);
	return septets
		? { dataCoding: 0, octets: Buffer.from(septets.buffer, septets.byteOffset, septets.length) }
		: { dataCoding: 8, octets: Buffer.from(text, 'utf16le').swap16() };
}

/** Octets that one part holds: 160 septets, here an octet each, or 70 units of 16 bits. */
const onePart = { 0: 160, 8: 140 } as const;

function sortStatus(pdu: Pdu): Outcome {
	const said = `0x${pdu.command_status.toString(16).padStart(8, '0')}`;
	switch (pdu.command_status) {
		case status.ok:
			return {
				kind: 'accepted',
				detail: 'the text exchange took it',
				said: `id ${pdu.message_id}`,
				...(pdu.message_id ? { providerRef: pdu.message_id } : {})
			};
		case status.queueFull:
		case status.throttled:
			return { kind: 'deferred', detail: 'the text exchange is busy', said, tooMuch: true };
		case status.systemError:
		case status.tryLater:
			return { kind: 'deferred', detail: 'the text exchange could not take it now', said };
		case status.invalidDestination:
			return {
				kind: 'refused',
				detail: 'the number is not a valid destination',
				said,
				addressFault: 'not a valid destination'
			};
		default:
			return {
				kind: 'refused',
				detail: 'the text exchange refused it',
				said,
				addressFault: null
			};
	}
}

/** Text of a short_message or message_payload, whichever form the package hands over. */
function textOf(pdu: Pdu): string {
	const part = pdu.message_payload ?? pdu.short_message ?? '';
	const message = typeof part === 'string' || Buffer.isBuffer(part) ? part : (part.message ?? '');
	return typeof message === 'string' ? message : message.toString('latin1');
}

/** How an exchange is connected to; one on this machine may have a certificate of its own. */
const connectionTo = (url: URL) => ({
	host: url.hostname,
	port: Number(url.port || 2775),
	tls: url.protocol === 'ssmpp:' || url.protocol === 'smpps:',
	rejectUnauthorized: !isLoopback(url.href),
	auto_enquire_link_period: 30_000
});

/** The fields of the bind (SMPP 3.4 section 4.1.5), from the address of the exchange. */
const signIn = (url: URL) => ({
	system_id: decodeURIComponent(url.username),
	password: decodeURIComponent(url.password),
	interface_version: 0x34
});

/** Which part of a longer text a deliver_sm is, by its header or its parameters. */
function partOf(pdu: Pdu): TextPart | null {
	const message = pdu.short_message;
	const udh = typeof message === 'object' && !Buffer.isBuffer(message) ? (message.udh ?? []) : [];
	return (
		partOfHeader(udh) ??
		partOfParameters(pdu.sar_msg_ref_num, pdu.sar_total_segments, pdu.sar_segment_seqnum)
	);
}

/** What a deliver_sm brings: a receipt, or a text from a phone. */
function incomingOf(pdu: Pdu): Parameters<ReceiptHandler>[0] {
	const words = textOf(pdu);
	// Some exchanges say nothing in esm_class of their receipts; their form does (appendix B).
	const fromPhone =
		((pdu.esm_class ?? 0) & receiptBits) === 0 &&
		!pdu.receipted_message_id &&
		pdu.message_state === undefined &&
		readTextReceipt({ text: words }) === null;
	if (fromPhone) {
		const part = partOf(pdu);
		const text = { from: pdu.source_addr ?? '', to: pdu.destination_addr ?? '', words };
		return part === null ? text : { ...text, part };
	}
	return {
		text: words,
		...(pdu.receipted_message_id ? { receiptedId: pdu.receipted_message_id } : {}),
		...(pdu.message_state === undefined ? {} : { messageState: pdu.message_state })
	};
}

/** The fields of the submit_sm for one text (SMPP 3.4 section 4.4.1). */
function submission(message: TextMessage) {
	const { dataCoding, octets } = encodeText(message.text);
	// Longer than one part: the exchange cuts it (message_payload, SMPP 3.4 section 5.3.2.32).
	const long = octets.length > onePart[dataCoding];
	return {
		source_addr: message.from,
		dest_addr_ton: 1,
		dest_addr_npi: 1,
		destination_addr: message.to.replace(/^\+/, ''),
		data_coding: dataCoding,
		registered_delivery: 1,
		user_message_reference: message.reference,
		...(long ? { message_payload: octets } : { short_message: octets })
	};
}

/**
 * Speaks SMPP 3.4 as a transceiver: submits texts, and hands receipts (deliver_sm) to `onReceipt`.
 * `onDown` hears what {@link TextGateway.down} says whenever that changes.
 */
export function textGateway(
	smppUrl: string,
	onReceipt: ReceiptHandler,
	onDown: (why: string | null) => void = () => {}
): TextGateway {
	const url = new URL(smppUrl);
	let session: Session | null = null;
	let bound = false;
	let why = 'not connected yet';
	let closing = false;
	const waiting = new Set<(outcome: Outcome) => void>();
	let firstTryOver = () => {};

	function connect(): void {
		if (closing) return;
		const mine = smpp.connect(connectionTo(url));
		session = mine;
		mine.on('connect', () => {
			mine.bind_transceiver(signIn(url), (pdu) => {
				bound = pdu.command_status === status.ok;
				if (!bound) why = `it refused our sign-in (0x${pdu.command_status.toString(16)})`;
				onDown(bound ? null : why);
				firstTryOver();
				if (!bound) mine.close();
			});
		});
		mine.on('error', (error: Error & { code?: string }) => {
			why = plainNetwork(error);
		});
		mine.on('close', () => {
			if (bound) why = 'the connection was lost';
			bound = false;
			onDown(why);
			firstTryOver();
			// They were handed over: only their answers are missing.
			for (const give of waiting) give({ kind: 'unanswered', why });
			waiting.clear();
			if (!closing) setTimeout(connect, reconnectMs);
		});
		mine.on('enquire_link', (pdu) => mine.send(pdu.response()));
		mine.on('deliver_sm', (pdu) => {
			const answer = (kept: boolean) =>
				mine.send(pdu.response({ command_status: kept ? status.ok : status.tryLater }));
			onReceipt(incomingOf(pdu)).then(answer, () => answer(false));
		});
	}

	return {
		start: () =>
			new Promise((resolve) => {
				firstTryOver = resolve;
				connect();
			}),
		down: () => (bound ? null : why),
		send: (message) =>
			new Promise<Outcome>((resolve) => {
				if (!session || !bound) return resolve({ kind: 'unavailable', why });
				const timer = setTimeout(
					() => give({ kind: 'unanswered', why: 'it did not answer in time' }),
					answerTimeoutMs
				);
				const give = (outcome: Outcome) => {
					clearTimeout(timer);
					waiting.delete(give);
					resolve(outcome);
				};
				waiting.add(give);
				const sent = session.submit_sm(submission(message), (pdu) => give(sortStatus(pdu)));
				if (!sent) give({ kind: 'unavailable', why: 'the connection was lost' });
			}),
		close: () =>
			new Promise((resolve) => {
				closing = true;
				if (!session) return resolve();
				session.destroy(() => resolve());
				setTimeout(resolve, 500);
			})
	};
}
