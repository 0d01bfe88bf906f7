import { escapeHtml } from '../../../core/copy/template';
import { now } from '../../clock';
import { notice, type NoticeRow } from '../../db/models/running';
import type { Query } from '../../db/open';

/** A letter to a member of the staff that the courier takes to their mailbox; they see it in their inbox as well. */
export interface Notice {
	/** The same key is the same letter, however often it is put. */
	readonly key: string;
	readonly personId: number;
	/** What it is about. */
	readonly kind: NoticeRow['kind'];
	readonly subject: string;
	/** Paragraphs; the letter's HTML is made from them where none is given. */
	readonly text: string;
	readonly html?: string;
	/** Where it goes instead of the person's own mailbox. */
	readonly address?: string | null;
	/** The conversation to which what is answered to it goes. */
	readonly conversationId?: number | null;
	readonly dispatchId: number | null;
	/** The link that stands in its words as “{link}”. */
	readonly accountLinkId?: number;
	/** Whether it goes by mail at all. */
	readonly byMail: boolean;
}

/** Plain paragraphs as HTML. */
export const paragraphsHtml = (text: string): string =>
	text
		.split(/\n{2,}/)
		.map((p) => `<p style="margin:0 0 12px">${escapeHtml(p).replace(/\n/g, '<br>')}</p>`)
		.join('');

/** Puts letters to the staff down, in the caller's transaction. */
export async function putNotices(tx: Query, notices: readonly Notice[]): Promise<void> {
	if (notices.length === 0) return;
	const at = await now(tx);
	await tx.rows(notice).addMany(
		notices.map((n) => ({
			key: n.key,
			personId: n.personId,
			kind: n.kind,
			subject: n.subject,
			text: n.text,
			html: n.html ?? paragraphsHtml(n.text),
			address: n.address ?? null,
			conversationId: n.conversationId ?? null,
			dispatchId: n.dispatchId,
			accountLinkId: n.accountLinkId ?? null,
			madeAt: at,
			state: n.byMail ? 'waiting' : 'inbox',
			dueAt: at
		})),
		'keep'
	);
}
