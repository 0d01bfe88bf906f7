import { afterType, fieldsOf } from './report-fields';
import { readStatusCode, smtpReplyText } from './status-code';

/** What a delivery status notification says of one recipient (RFC 3464 section 2.3). */
export interface RecipientStatus {
	readonly finalRecipient: string;
	readonly action: 'failed' | 'delayed' | 'delivered' | 'relayed' | 'expanded';
	/** The status field as written, "5.1.1". */
	readonly status: string;
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
		const status =
			fields
				.get('status')
				?.replace(/\(.*?\)/g, '')
				.trim() ?? '';
		const code = readStatusCode(status);
		const diagnostic = afterType(fields.get('diagnostic-code') ?? '');
		// X.0.0 says only "other"; the mail system's own reply may say more (RFC 3464 section 2.3.6).
		const text =
			(code === null || code.rest === '0.0') && diagnostic
				? smtpReplyText(diagnostic)
				: (code?.text ?? 'the mail system gave no known reason');
		recipients.push({
			finalRecipient: afterType(recipient),
			action: action as RecipientStatus['action'],
			status,
			text
		});
	}
	return recipients.length > 0
		? { ok: true, recipients }
		: { ok: false, why: 'The notification names no recipient with an action.' };
}
