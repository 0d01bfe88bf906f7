import { afterType, fieldsOf } from './report-fields';
import { readStatusCode, smtpReplyText } from './status-code';

/** What a delivery status notification says of one recipient (RFC 3464 section 2.3). */
export interface RecipientStatus {
	readonly finalRecipient: string;
	/** The address that the letter was written to first, where the mail system says it (RFC 3464 section 2.3.1). */
	readonly originalRecipient: string | null;
	readonly action: 'failed' | 'delayed' | 'delivered' | 'relayed' | 'expanded';
	/** The status, "5.1.1": of the diagnostic where the field itself says only "other" (RFC 3464 section 2.3.6). */
	readonly status: string;
	/** The reply of the mail system that refused, as it is; empty where none is given. */
	readonly diagnostic: string;
	/** Plain words for the office. */
	readonly text: string;
}

export type Notification =
	| { readonly ok: true; readonly recipients: readonly RecipientStatus[] }
	| { readonly ok: false; readonly why: string };

const actions = new Set(['failed', 'delayed', 'delivered', 'relayed', 'expanded']);

/**
 * Reads the body of a message/delivery-status part. Text in parentheses is a comment. A part with
 * no usable recipient block says why.
 */
export function readNotification(part: string): Notification {
	const blocks = part
		.replace(/^\s+/, '')
		.split(/\r?\n[ \t]*\r?\n/)
		.map(fieldsOf)
		.filter((fields) => fields.size > 0);
	const recipients: RecipientStatus[] = [];
	for (const fields of blocks) {
		const recipient = fields.get('final-recipient');
		const action = fields
			.get('action')
			?.replace(/\(.*?\)/g, '')
			.trim()
			.toLowerCase();
		if (!recipient || !action || !actions.has(action)) continue;
		const field =
			fields
				.get('status')
				?.replace(/\(.*?\)/g, '')
				.trim() ?? '';
		const said = readStatusCode(field);
		const diagnostic = afterType(fields.get('diagnostic-code') ?? '');
		const general = said === null || said.rest === '0.0';
		const own = general ? readStatusCode(diagnostic) : null;
		const status = own ? `${own.class}.${own.rest}` : field;
		const text =
			general && diagnostic
				? smtpReplyText(diagnostic)
				: (said?.text ?? 'the mail system gave no known reason');
		const original = fields.get('original-recipient');
		recipients.push({
			finalRecipient: afterType(recipient),
			originalRecipient: original ? afterType(original) : null,
			action: action as RecipientStatus['action'],
			status,
			text,
			diagnostic
		});
	}
	return recipients.length > 0
		? { ok: true, recipients }
		: { ok: false, why: 'The notification names no recipient with an action.' };
}
