import MailComposer from 'nodemailer/lib/mail-composer';
import type { Way } from '../../../core/roster/way';
import type { StoredFile } from '../sheet/letters';
import { filesThere } from './files-there';
import { districtMailbox, type LetterOut, type LettersHouse } from './letter-out';

interface AnswerRow {
	readonly id: number;
	readonly at: number;
	readonly way: Way;
	readonly name: string;
	readonly address: string;
	readonly personId: number | null;
	readonly subject: string;
	readonly words: string;
	readonly messageId: string | null;
	readonly dispatchId: number | null;
}

/** Where an answer came from, as a mail address: a phone and an inbox have none, and are given one that leads nowhere (RFC 2606 section 2). */
const mailboxOf = ({ address, way, personId }: AnswerRow): string =>
	address.includes('@')
		? address
		: way === 'text' && /^\+?\d+$/.test(address)
			? `${address.replace('+', '')}@phone.invalid`
			: `reader-${personId ?? 0}@inbox.invalid`;

/** What families wrote back, by whatever way, the oldest first. */
export async function* answersOut({ db, dataFolder }: LettersHouse): AsyncGenerator<LetterOut> {
	const to = await districtMailbox(db);
	for (let after = 0; ;) {
		const rows = await db.all<AnswerRow>(
			`SELECT answer.id, answer.at, answer.way, coalesce(nullif(from_name, ''), given_name || ' ' || family_name, '') AS name,
				from_address AS address, person_id AS personId, coalesce(nullif(answer.subject, ''), conversation.subject) AS subject,
				coalesce(nullif(whole, ''), text) AS words, message_id AS messageId, dispatch_id AS dispatchId
			FROM answer JOIN conversation ON conversation.id = conversation_id LEFT JOIN person ON person.id = person_id
			WHERE answer.id > $after ORDER BY answer.id LIMIT 500`,
			{ after }
		);
		for (const row of rows) {
			const files = await db.all<StoredFile>(
				'SELECT id, name, type, bytes, hash FROM answer_file WHERE answer_id = $id AND hash IS NOT NULL ORDER BY id',
				{ id: row.id }
			);
			const from = mailboxOf(row);
			const at = new Date(row.at);
			const back = new MailComposer({
				messageId: row.messageId ?? `<answer-${row.id}@answers.invalid>`,
				...{ date: at, from: { name: row.name, address: from } },
				...{ to, subject: row.subject, text: row.words },
				attachments: (await filesThere(dataFolder, files)).map((f) => ({
					...{ filename: f.name, contentType: f.type, content: f.content }
				})),
				headers: {
					Comments: `By ${row.way}${row.dispatchId === null ? '' : `, about dispatch ${row.dispatchId}`}`
				}
			});
			yield { from, at, octets: await back.compile().build() };
		}
		if (rows.length < 500) return;
		after = rows.at(-1)!.id;
	}
}
