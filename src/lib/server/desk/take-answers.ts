import type { Query } from '../db/open';
import type { MailAnswer } from '../gateway/return-mail';
import { putNotices, type Notice } from './notices';
import { record, type Happening } from './record';
import { letterSchema } from './sheet';

/** An answer, and the delivery whose answer address it came to. */
export interface CameIn {
	readonly deliveryId: number;
	readonly answer: MailAnswer;
}

/**
 * Takes answers by mail in: each is kept, is evidence on its delivery, and a copy is passed on to
 * whom the dispatch names for answers. An answer from an address that its reader does not have on
 * file is kept as well, as fair evidence: whoever has the letter has the answer address.
 */
export async function takeAnswers(tx: Query, group: readonly CameIn[], at: number): Promise<void> {
	const happenings: Happening[] = [];
	const notices: Notice[] = [];
	for (const { deliveryId, answer } of group) {
		const delivery = await tx.one<{
			dispatchId: number;
			subject: string;
			senderId: number;
			letter: string;
			person: string;
			students: string;
			known: number;
		}>(
			`SELECT dispatch_id AS dispatchId, subject, sender_id AS senderId, letter,
				given_name || ' ' || family_name AS person,
				coalesce((SELECT group_concat(given_name || ' ' || family_name, ', ') FROM delivery_student
					JOIN person AS student ON student.id = student_id WHERE delivery_id = delivery.id), '') AS students,
				(delivery.address = $from COLLATE NOCASE OR EXISTS (SELECT 1 FROM address
					WHERE value = $from COLLATE NOCASE AND (address.person_id = delivery.person_id
						OR address.person_id IN (SELECT person_id FROM delivery_also WHERE delivery_id = delivery.id)))) AS known
			FROM delivery JOIN dispatch ON dispatch.id = dispatch_id JOIN person ON person.id = delivery.person_id
			WHERE delivery.id = $id`,
			{ id: deliveryId, from: answer.fromAddress }
		);
		if (!delivery) continue;
		const again = await tx.one(
			'SELECT 1 FROM answer WHERE delivery_id = $id AND message_key = $key',
			{ id: deliveryId, key: answer.messageKey }
		);
		if (again) continue;
		await tx.run(
			`INSERT INTO answer (delivery_id, at, from_name, from_address, subject, text, message_key)
			VALUES ($deliveryId, $at, $fromName, $fromAddress, $subject, $text, $messageKey)`,
			{ deliveryId, at, ...answer }
		);
		const first = answer.text.replace(/\s+/g, ' ').slice(0, 120);
		happenings.push({
			deliveryId,
			at,
			kind: 'answered',
			source: 'answer by mail',
			detail: delivery.known
				? `answered by mail: “${first}”`
				: `answered by mail from another address (${answer.fromAddress}): “${first}”`,
			strength: delivery.known ? 'strong' : 'fair'
		});
		const { replyTo } = letterSchema.parse(JSON.parse(delivery.letter));
		notices.push({
			key: `answer ${deliveryId} ${answer.messageKey}`,
			personId: delivery.senderId,
			kind: 'answer',
			subject: answer.subject || `Answer to ${delivery.subject}`,
			text: [
				`${answer.fromName || delivery.person} (${answer.fromAddress}) answered “${delivery.subject}”, sent to ${delivery.person}${delivery.students ? ` for ${delivery.students}` : ''}:`,
				answer.text,
				'The answer is kept with the dispatch. Answering this letter writes to this one person.'
			].join('\n\n'),
			address: replyTo.trim() || null,
			replyTo: answer.fromAddress || null,
			dispatchId: delivery.dispatchId,
			byMail: true
		});
	}
	await record(tx, happenings);
	await putNotices(tx, notices);
}
