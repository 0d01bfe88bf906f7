import { afterType, fieldsOf } from './report-fields';

/** What a message disposition notification says (RFC 8098 section 3.2.6). */
export interface Disposition {
	readonly finalRecipient: string;
	/** The address that the letter was written to first, where it is said (RFC 8098 section 3.2.3). */
	readonly originalRecipient: string | null;
	/** `displayed` says that the letter was shown to someone, not that it was understood. */
	readonly type: 'displayed' | 'deleted' | 'dispatched' | 'processed';
	/** Whether a person did it, or the mail program by itself. */
	readonly byHand: boolean;
	/** The modifiers after the slash, "error" among them. */
	readonly modifiers: readonly string[];
}

export type DispositionRead =
	| { readonly ok: true; readonly disposition: Disposition }
	| { readonly ok: false; readonly why: string };

const types = new Set(['displayed', 'deleted', 'dispatched', 'processed']);

/**
 * Reads the body of a message/disposition-notification part. The Disposition field is
 * "action-mode/sending-mode; type/modifier,modifier" (RFC 8098 section 3.2.6); what has no known
 * type says why it is none.
 */
export function readDisposition(part: string): DispositionRead {
	const fields = fieldsOf(part.trim());
	const recipient = fields.get('final-recipient');
	const original = fields.get('original-recipient');
	const match = /^\s*([\w-]+)\s*\/\s*([\w-]+)\s*;\s*([\w-]+)\s*(?:\/\s*(.*))?$/.exec(
		(fields.get('disposition') ?? '').replace(/\(.*?\)/g, '')
	);
	const type = match?.[3]?.toLowerCase() ?? '';
	if (!recipient || !match || !types.has(type)) {
		return { ok: false, why: 'The read receipt does not say what happened to the letter.' };
	}
	return {
		ok: true,
		disposition: {
			finalRecipient: afterType(recipient),
			originalRecipient: original ? afterType(original) : null,
			type: type as Disposition['type'],
			byHand: match[1]!.toLowerCase() === 'manual-action',
			modifiers: (match[4] ?? '')
				.split(',')
				.map((m) => m.trim().toLowerCase())
				.filter(Boolean)
		}
	};
}
