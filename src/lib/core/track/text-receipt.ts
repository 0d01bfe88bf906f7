/** What a text receipt says. The states are those of SMPP 3.4 appendix B, table B-2. */
export interface TextReceipt {
	readonly messageId: string;
	readonly state: TextReceiptState;
	/** The network's error number as written, "001". */
	readonly error: string;
}

export type TextReceiptState =
	'DELIVRD' | 'EXPIRED' | 'DELETED' | 'UNDELIV' | 'ACCEPTD' | 'UNKNOWN' | 'REJECTD';

/** Whether a state is final, and in which direction; ACCEPTD and UNKNOWN settle nothing. */
export const textReceiptOutcome: Readonly<
	Record<TextReceiptState, { outcome: 'delivered' | 'failed' | 'open'; text: string }>
> = {
	DELIVRD: { outcome: 'delivered', text: 'the phone has it' },
	EXPIRED: { outcome: 'failed', text: 'the phone was off or out of reach too long' },
	DELETED: { outcome: 'failed', text: 'the network deleted it' },
	UNDELIV: { outcome: 'failed', text: 'the number is not in service' },
	ACCEPTD: { outcome: 'open', text: 'the network has taken it' },
	UNKNOWN: { outcome: 'open', text: 'the network does not know where it is' },
	REJECTD: { outcome: 'failed', text: 'the network refused it' }
};

/** Reads the text of a deliver_sm that carries a receipt (SMPP 3.4 appendix B: "id:… sub:… dlvrd:… … stat:… err:… text:…"); null where it is none. */
export function readTextReceipt(text: string): TextReceipt | null {
	const id = /(?:^|\s)id:(\S+)/i.exec(text)?.[1];
	const stat = /(?:^|\s)stat:(\S+)/i.exec(text)?.[1]?.toUpperCase();
	if (!id || !stat || !(stat in textReceiptOutcome)) return null;
	return {
		messageId: id,
		state: stat as TextReceiptState,
		error: /(?:^|\s)err:(\S+)/i.exec(text)?.[1] ?? ''
	};
}
