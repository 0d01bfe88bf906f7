/** What a notification says. */
export interface NotificationInput {
	/** Where it goes: the letter's return address. */
	readonly to: string;
	readonly recipient: string;
	readonly action: 'delivered' | 'failed' | 'delayed';
	/** Enhanced status code, RFC 3463. */
	readonly status: string;
	readonly diagnostic: string;
	readonly messageId: string;
	/** ENVID of the submission (RFC 3461 section 4.4), or empty. */
	readonly envelopeId: string;
	readonly date: Date;
}

/** Its words for people. */
const wordsOf = (n: NotificationInput): string =>
	n.action === 'delivered'
		? `Your letter to ${n.recipient} is in the mailbox.`
		: `Your letter to ${n.recipient} could not be delivered: ${n.diagnostic}`;

const subjectOf = (n: NotificationInput): string =>
	`${n.action === 'delivered' ? 'Delivered' : 'Not delivered'}: your letter`;

/** Its part for machines (RFC 3464 section 2). */
const statusOf = (n: NotificationInput): string =>
	[
		'Reporting-MTA: dns; mailhouse.example',
		...(n.envelopeId ? [`Original-Envelope-Id: ${n.envelopeId}`] : []),
		'',
		`Final-Recipient: rfc822; ${n.recipient}`,
		`Action: ${n.action}`,
		`Status: ${n.status}`,
		`Diagnostic-Code: smtp; ${n.diagnostic}`,
		''
	].join('\r\n');

/** A notification as whoever reads it has it: its words, and its part for machines. */
export const notificationAsRead = (n: NotificationInput) => ({
	words: `${subjectOf(n)}\n\n${wordsOf(n)}\n`,
	machine: statusOf(n)
});

/** Writes a delivery status notification: multipart/report with a text for people and a part for machines (RFC 3464, RFC 6522). */
export function writeNotification(n: NotificationInput): string {
	const boundary = `=_mailhouse_${n.date.getTime().toString(36)}`;
	return [
		'From: Mail delivery <postmaster@mailhouse.example>',
		`To: <${n.to}>`,
		`Subject: ${subjectOf(n)}`,
		`Date: ${n.date.toUTCString().replace('GMT', '+0000')}`,
		`Message-ID: <dsn.${n.date.getTime().toString(36)}.${n.messageId.replace(/[<>]/g, '')}>`,
		'Auto-Submitted: auto-replied',
		'MIME-Version: 1.0',
		`Content-Type: multipart/report; report-type=delivery-status; boundary="${boundary}"`,
		'',
		`--${boundary}`,
		'Content-Type: text/plain; charset=utf-8',
		'',
		wordsOf(n),
		'',
		`--${boundary}`,
		'Content-Type: message/delivery-status',
		'',
		statusOf(n),
		`--${boundary}`,
		'Content-Type: text/rfc822-headers',
		'',
		`Message-ID: ${n.messageId}`,
		'',
		`--${boundary}--`,
		''
	].join('\r\n');
}
