import { escapeHtml } from '../../../core/copy/template';
import { now } from '../../clock';
import type { Query } from '../../db/open';

/** What a letter to a member of the staff is about. */
type NoticeKind = 'answer' | 'account' | 'mend';

/** A letter to a member of the staff that the courier takes to their mailbox; they see it in their inbox as well. */
export interface Notice {
	/** The same key is the same letter, however often it is put. */
	readonly key: string;
	readonly personId: number;
	readonly kind: NoticeKind;
	readonly subject: string;
	/** Paragraphs; the letter's HTML is made from them where none is given. */
	readonly text: string;
	readonly html?: string;
	/** Where it goes instead of the person's own mailbox. */
	readonly address?: string | null;
	readonly replyTo?: string | null;
	readonly dispatchId: number | null;
	/** Whether it goes by mail at all. */
	readonly byMail: boolean;
}

/** Plain paragraphs as HTML. */
const paragraphsHtml = (text: string): string =>
	text
		.split(/\n{2,}/)
		.map((p) => `<p style="margin:0 0 12px">${escapeHtml(p).replace(/\n/g, '<br>')}</p>`)
		.join('');

/** Puts letters to the staff down, in the caller's transaction. */
export async function putNotices(tx: Query, notices: readonly Notice[]): Promise<void> {
	if (notices.length === 0) return;
	const at = await now(tx);
	await tx.run(
		`INSERT INTO notice (key, person_id, kind, subject, text, html, address, reply_to, dispatch_id, made_at, state, due_at)
		SELECT value ->> 0, value ->> 1, value ->> 2, value ->> 3, value ->> 4, value ->> 5, value ->> 6, value ->> 7,
			value ->> 8, $at, value ->> 9, $at FROM json_each($rows) WHERE 1
		ON CONFLICT (key) DO NOTHING`,
		{
			at,
			rows: JSON.stringify(
				notices.map((n) => [
					n.key,
					n.personId,
					n.kind,
					n.subject,
					n.text,
					n.html ?? paragraphsHtml(n.text),
					n.address ?? null,
					n.replyTo ?? null,
					n.dispatchId,
					n.byMail ? 'waiting' : 'inbox'
				])
			)
		}
	);
}
