import { flowed } from '../../core/copy/flowed';

/** One email, to one person. */
export interface Letter {
	readonly messageId: string;
	readonly date: Date;
	readonly from: { readonly name: string; readonly address: string };
	readonly to: { readonly name: string; readonly address: string };
	/** Where notifications of this one copy come back to. */
	readonly returnAddress: string;
	/** Where answers go (Reply-To); null for the From address. */
	readonly replyTo: { readonly name: string; readonly address: string } | null;
	readonly subject: string;
	readonly html: string;
	/** Paragraphs on one line each. */
	readonly text: string;
	/** BCP 47 tag. */
	readonly language: string;
	/** Pictures that the HTML shows, each named by its Content-ID. */
	readonly pictures: readonly (MailFile & { readonly cid: string })[];
	readonly attached: readonly MailFile[];
	/** Address by which the reader gets no more of this kind; null where none is due. */
	readonly stopLink: string | null;
	/** Whether the reader's mail program is asked to say that the letter was shown (RFC 8098 section 2.1). */
	readonly askReceipt?: boolean;
	/** Whether a machine wrote it by itself (Auto-Submitted, RFC 3834 section 5). */
	readonly automatic?: boolean;
	/** Message-ID of the letter that it answers by itself (RFC 3834 section 3.1.5). */
	readonly answers?: string | null;
	/** The letters that a person answers with it (RFC 5322 section 3.6.4). */
	readonly thread?: { readonly inReplyTo: string; readonly references: readonly string[] } | null;
}

export interface MailFile {
	readonly name: string;
	readonly type: string;
	readonly content: Buffer;
}

/**
 * The parts of a letter: plain text that can be flowed to any width (RFC 3676) beside HTML (RFC
 * 2046 section 5.1.4), its pictures related to it (RFC 2387), files with their names (RFC 2183).
 */
function bodyParts(letter: Letter) {
	return {
		alternatives: [
			{
				contentType: 'text/plain; charset=utf-8; format=flowed',
				content: flowed(letter.text)
			},
			{ contentType: 'text/html; charset=utf-8', content: letter.html }
		],
		attachments: [
			...letter.pictures.map((p) => ({
				filename: p.name,
				contentType: p.type,
				content: p.content,
				cid: p.cid,
				contentDisposition: 'inline' as const
			})),
			...letter.attached.map((f) => ({
				filename: f.name,
				contentType: f.type,
				content: f.content,
				contentDisposition: 'attachment' as const
			}))
		]
	};
}

/** By which a mail program offers to stop (RFC 2369 section 3.2), in one step without opening a page (RFC 8058 section 3.1). */
const stopHeaders = (link: string | null): Record<string, string> =>
	link
		? { 'List-Unsubscribe': `<${link}>`, 'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click' }
		: {};

/** A letter as nodemailer takes it (RFC 5322), with the notifications it asks for (RFC 3461). */
export const mailOf = (letter: Letter) => ({
	messageId: letter.messageId,
	date: letter.date,
	from: letter.from,
	to: letter.to,
	envelope: { from: letter.returnAddress, to: [letter.to.address] },
	dsn: { notify: ['success', 'failure', 'delay'], return: 'headers', id: letter.messageId },
	...(letter.replyTo ? { replyTo: letter.replyTo } : {}),
	...(letter.answers ? { inReplyTo: letter.answers, references: letter.answers } : {}),
	...(letter.thread
		? { inReplyTo: letter.thread.inReplyTo, references: [...letter.thread.references] }
		: {}),
	subject: letter.subject,
	...bodyParts(letter),
	headers: {
		'Content-Language': letter.language,
		...stopHeaders(letter.stopLink),
		// The same address as the return path, or mail programs ask their reader twice (RFC 8098 section 2.1).
		...(letter.askReceipt ? { 'Disposition-Notification-To': `<${letter.returnAddress}>` } : {}),
		...(letter.automatic
			? { 'Auto-Submitted': letter.answers ? 'auto-replied' : 'auto-generated' }
			: letter.thread
				? {}
				: // Written by a person to many: absence notes stay away (common practice; RFC 3834 section 2 names it).
					{ Precedence: 'bulk' })
	}
});
