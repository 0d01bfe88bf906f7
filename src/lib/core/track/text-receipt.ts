/** What a text receipt says. The states are those of SMPP 3.4 appendix B, table B-2, and ENROUTE of section 5.2.28. */
export interface TextReceipt {
	readonly messageId: string;
	readonly state: TextReceiptState;
	/** The network's error number as written, "001". */
	readonly error: string;
}

export type TextReceiptState =
	'ENROUTE' | 'DELIVRD' | 'EXPIRED' | 'DELETED' | 'UNDELIV' | 'ACCEPTD' | 'UNKNOWN' | 'REJECTD';

/** Whether a state is final, and in which direction; ENROUTE, ACCEPTD and UNKNOWN settle nothing. */
export const textReceiptOutcome: Readonly<
	Record<TextReceiptState, { outcome: 'delivered' | 'failed' | 'open'; text: string }>
> = {
	ENROUTE: { outcome: 'open', text: 'the text is on its way to the phone' },
	DELIVRD: { outcome: 'delivered', text: 'the phone has it' },
	EXPIRED: { outcome: 'failed', text: 'the phone was off or out of reach too long' },
	DELETED: { outcome: 'failed', text: 'the network deleted it' },
	UNDELIV: { outcome: 'failed', text: 'the number is not in service' },
	ACCEPTD: { outcome: 'open', text: 'the network has taken it' },
	UNKNOWN: { outcome: 'open', text: 'the network does not know where it is' },
	REJECTD: { outcome: 'failed', text: 'the network refused it' }
};

/** The values of the message_state parameter (SMPP 3.4 section 5.2.28), by their number. */
const byNumber: Readonly<Record<number, TextReceiptState>> = {
	1: 'ENROUTE',
	2: 'DELIVRD',
	3: 'EXPIRED',
	4: 'DELETED',
	5: 'UNDELIV',
	6: 'ACCEPTD',
	7: 'UNKNOWN',
	8: 'REJECTD'
};

/** The parts of a deliver_sm in which a receipt may be said. */
export interface ReceiptParts {
	/** The message itself. */
	readonly text: string;
	/** receipted_message_id (SMPP 3.4 section 5.3.2.12), where it is given. */
	readonly receiptedId?: string;
	/** message_state (section 5.3.2.35), where it is given. */
	readonly messageState?: number;
}

/**
 * Reads a deliver_sm that carries a receipt; null where it is none. The optional parameters are
 * exact and go before the text ("id:… sub:… dlvrd:… … stat:… err:… text:…", appendix B), which is
 * the vendor's own.
 */
export function readTextReceipt({
	text,
	receiptedId,
	messageState
}: ReceiptParts): TextReceipt | null {
	const id = receiptedId?.replace(/\0.*$/s, '') || /(?:^|\s)id:(\S+)/i.exec(text)?.[1];
	const stat = /(?:^|\s)stat:(\S+)/i.exec(text)?.[1]?.toUpperCase();
	const state = byNumber[messageState ?? 0] ?? stat;
	if (!id || !state || !Object.hasOwn(textReceiptOutcome, state)) return null;
	return {
		messageId: id,
		state: state as TextReceiptState,
		error: /(?:^|\s)err:(\S+)/i.exec(text)?.[1] ?? ''
	};
}
