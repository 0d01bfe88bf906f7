import type { House } from './house';
import { notice } from '../src/lib/server/db/models/running';
import { retryAt } from '../src/lib/core/time/retry';
import { accountToken, addressFor, messageId } from '../src/lib/server/access/tokens';
import { now } from '../src/lib/server/clock';
import type { District } from '../src/lib/server/db/district';
import type { Query } from '../src/lib/server/db/open';
import { saidText } from '../src/lib/server/gateway/outcome';
import type { NoticeRow } from '../src/lib/server/db/models/running';

/** When the next letter to the staff is due (job's clock, ms), or a proof waits; null where there is none. */
export async function nextNotice(db: Query): Promise<number | null> {
	const row = await db.one<{ at: number | null }>(
		`SELECT min(at) AS at FROM (SELECT min(due_at) AS at FROM notice WHERE state = 'waiting'
			UNION ALL SELECT min(made_at) FROM proof WHERE state = 'waiting' AND way != 'inbox')`
	);
	return row?.at ?? null;
}

/** Sends the letters to the staff that are due. One that cannot go now waits on by the same rule as a copy; one for somebody without a mailbox stays in their inbox. */
export async function sendNotices(
	{ db, settings, key, mail }: House,
	district: District
): Promise<void> {
	const time = await now(db);
	const waiting = await db.all<
		Pick<
			NoticeRow,
			'id' | 'nonce' | 'subject' | 'html' | 'text' | 'conversationId' | 'attempts'
		> & {
			name: string;
			address: string | null;
			linkId: number | null;
			linkNonce: string | null;
		}
	>(
		`SELECT notice.id, notice.nonce, subject, html, text, conversation_id AS conversationId, given_name || ' ' || family_name AS name,
			coalesce(notice.address, (SELECT value FROM address WHERE address.person_id = notice.person_id
				AND way = 'email' AND failing IS NULL ORDER BY address.id LIMIT 1)) AS address, attempts,
			account_link.id AS linkId, account_link.nonce AS linkNonce
		FROM notice JOIN person ON person.id = notice.person_id LEFT JOIN account_link ON account_link.id = account_link_id WHERE state = 'waiting' AND due_at <= $time
		ORDER BY notice.id LIMIT 50`,
		{ time }
	);
	for (const { id, nonce, name, address, attempts, linkId, linkNonce, ...letter } of waiting) {
		// A link is made when it leaves, so that the database holds none that opens anything.
		const link =
			linkId === null
				? ''
				: `${settings.publicUrl}/account/${accountToken(key, { id: linkId, nonce: linkNonce! })}`;
		const put = (state: NoticeRow['state'], detail: string, dueAt: number, tries: number) =>
			db.rows(notice).change({ id }, { state, detail, dueAt, attempts: tries });
		if (address === null) {
			await put('inbox', 'no mailbox on file that works', time, attempts);
			continue;
		}
		const outcome = await mail.send({
			messageId: messageId(key, 'notice', { id, nonce }, settings.returnDomain),
			date: new Date(time),
			from: { name: district.name, address: district.mailFrom },
			// What is answered to it goes to the family from here, without the address of whoever answers.
			replyTo:
				letter.conversationId === null
					? null
					: {
							name: district.name,
							address: addressFor(key, 'staff', { id, nonce }, settings.returnDomain)
						},
			to: { name, address },
			returnAddress: addressFor(key, 'notice', { id, nonce }, settings.returnDomain),
			subject: letter.subject,
			html: letter.html.replaceAll('{link}', `<a href="${link}">${link}</a>`),
			text: letter.text.replaceAll('{link}', link),
			language: 'en',
			pictures: [],
			attached: [],
			stopLink: null,
			// Written by a machine: nobody's absence note answers it (RFC 3834 section 5).
			automatic: true
		});
		switch (outcome.kind) {
			case 'unavailable':
				return;
			case 'accepted':
				await put('sent', saidText(outcome), time, attempts + 1);
				break;
			case 'refused':
				await put('failed', saidText(outcome), time, attempts + 1);
				break;
			// Staff who get a note twice are better off than those who get none.
			case 'unanswered':
			case 'deferred': {
				const detail =
					outcome.kind === 'deferred' ? saidText(outcome) : `no answer: ${outcome.why}`;
				const next = retryAt(time, attempts + 1);
				await put(next === null ? 'failed' : 'waiting', detail, next ?? time, attempts + 1);
			}
		}
	}
}
