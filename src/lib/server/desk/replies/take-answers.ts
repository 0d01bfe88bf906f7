import { answer as answers } from '../../db/models/delivery';
import { doubtOf, doubtWords, type Doubt } from '../../../core/track/auto-answer';
import { messageId } from '../../access/tokens';
import type { Query } from '../../db/open';
import type { MailAnswer } from '../../gateway/return-mail';
import { putNotices, type Notice } from '../staff/notices';
import { record, type Happening } from '../track/record';
import { letterSchema } from '../sheet/sheet';
import type { DeliveryRow } from '../../db/models/delivery';
import type { DispatchRow } from '../../db/models/dispatch';

/** An answer, and the delivery whose answer address it came to. */
export interface CameIn {
	readonly deliveryId: number;
	readonly answer: MailAnswer;
}

/** Answers passed on within an hour, of one copy and of a whole dispatch: two machines that answer each other fill nobody's mailbox. What is beyond is kept all the same. */
const passedOn = { ofCopy: 5, ofDispatch: 200, hourMs: 3_600_000 } as const;

/** Answers kept of one copy. */
const mostKept = 200;

/** Whether an answer names the letter it was sent to (In-Reply-To, References). */
const namesLetter = (
	key: Buffer,
	delivery: { readonly id: number; readonly nonce: string },
	answersTo: readonly string[]
): boolean => {
	const ours = messageId(key, 'return', delivery, '');
	const mark = ours.slice(0, ours.indexOf('@') + 1);
	return answersTo.some((id) => id.startsWith(mark));
};

/** The delivery an answer came to, and what decides how the answer is taken. */
type Answered = Pick<DeliveryRow, 'nonce' | 'dispatchId' | 'leftAt'> &
	Pick<DispatchRow, 'subject' | 'senderId' | 'letter'> & {
		readonly person: string;
		readonly students: string;
		/** Whether its reader has the answer's address on file. */
		readonly known: number;
		/** Answers kept of it; and within the last hour, of it and of its dispatch. */
		readonly kept: number;
		readonly lately: number;
		readonly latelyAll: number;
	};

/** Reads the delivery an answer came to; undefined where there is none (any more). */
const readAnswered = (
	tx: Query,
	{ deliveryId, answer }: CameIn,
	at: number
): Promise<Answered | undefined> =>
	tx.one<Answered>(
		`SELECT delivery.nonce, dispatch_id AS dispatchId, subject, sender_id AS senderId, letter, left_at AS leftAt,
			given_name || ' ' || family_name AS person,
			coalesce((SELECT group_concat(given_name || ' ' || family_name, ', ') FROM delivery_student
				JOIN person AS student ON student.id = student_id WHERE delivery_id = delivery.id), '') AS students,
			(delivery.address = $from COLLATE NOCASE OR EXISTS (SELECT 1 FROM address
				WHERE value = $from COLLATE NOCASE AND (address.person_id = delivery.person_id
					OR address.person_id IN (SELECT person_id FROM delivery_also WHERE delivery_id = delivery.id)))) AS known,
			(SELECT count(*) FROM answer WHERE delivery_id = delivery.id) AS kept,
			(SELECT count(*) FROM answer WHERE delivery_id = delivery.id AND at > $hour) AS lately,
			(SELECT count(*) FROM answer JOIN delivery AS other ON other.id = answer.delivery_id
				WHERE answer.at > $hour AND other.dispatch_id = delivery.dispatch_id) AS latelyAll
		FROM delivery JOIN dispatch ON dispatch.id = dispatch_id JOIN person ON person.id = delivery.person_id
		WHERE delivery.id = $id`,
		{ id: deliveryId, from: answer.fromAddress, hour: at - passedOn.hourMs }
	);

/** What makes an answer doubtful as a person's; null where nothing does. */
const doubtIn = (
	key: Buffer,
	{ deliveryId, answer }: CameIn,
	{ nonce, leftAt }: Answered,
	at: number
): Doubt | null =>
	doubtOf({
		subject: answer.subject,
		text: answer.text,
		afterMs: leftAt === null ? null : at - leftAt,
		belongs: answer.quotes || namesLetter(key, { id: deliveryId, nonce }, answer.answersTo)
	});

/** An answer as evidence on its delivery. */
function evidenceOf(
	{ deliveryId, answer }: CameIn,
	{ known }: Answered,
	doubt: Doubt | null,
	at: number
): Happening {
	const first = answer.text.replace(/\s+/g, ' ').slice(0, 120);
	const from = known ? '' : ` from another address (${answer.fromAddress})`;
	return {
		deliveryId,
		at,
		kind: 'answered',
		source: 'answer by mail',
		detail: doubt
			? `perhaps a machine answered by mail${from}, ${doubtWords[doubt]}: “${first}”`
			: `answered by mail${from}: “${first}”`,
		strength: doubt ? 'weak' : known ? 'strong' : 'fair',
		...(doubt ? { code: doubt } : {})
	};
}

/** The copy of an answer that is passed on. */
function copyOf({ deliveryId, answer }: CameIn, delivery: Answered, doubt: Doubt | null): Notice {
	const { fromName, fromAddress, text, messageKey } = answer;
	const { person, subject, students, senderId, dispatchId } = delivery;
	const { replyTo } = letterSchema.parse(JSON.parse(delivery.letter));
	const about = students ? ` for ${students}` : '';
	return {
		key: `answer ${deliveryId} ${messageKey}`,
		personId: senderId,
		kind: 'answer',
		subject: `Answer: ${subject}`,
		text: [
			`${fromName || person} (${fromAddress}) answered “${subject}”, sent to ${person}${about}:`,
			...(doubt ? [`This may be a machine’s answer: ${doubtWords[doubt]}.`] : []),
			text,
			'The answer is kept with the dispatch. Answering this letter writes to this one person.'
		].join('\n\n'),
		address: replyTo.trim() || null,
		replyTo: fromAddress || null,
		dispatchId,
		byMail: true
	};
}

/**
 * Takes answers by mail in: each is kept, is evidence on its delivery, and a copy is passed on to
 * whom the dispatch names for answers. An answer from an address that its reader does not have on
 * file is kept as well, as fair evidence: whoever has the letter has the answer address. One that may be a machine's is
 * kept as such: it counts as nobody's until a person says otherwise.
 */
export async function takeAnswers(
	tx: Query,
	key: Buffer,
	group: readonly CameIn[],
	at: number
): Promise<void> {
	const happenings: Happening[] = [];
	const notices: Notice[] = [];
	for (const came of group) {
		const { deliveryId, answer } = came;
		const delivery = await readAnswered(tx, came, at);
		if (!delivery || delivery.kept >= mostKept) continue;
		const again = await tx.one(
			'SELECT 1 FROM answer WHERE delivery_id = $id AND message_key = $key',
			{ id: deliveryId, key: answer.messageKey }
		);
		if (again) continue;
		const doubt = doubtIn(key, came, delivery, at);
		const { fromName, fromAddress, subject, text, messageKey } = answer;
		await tx
			.rows(answers)
			.add({ deliveryId, at, fromName, fromAddress, subject, text, messageKey, doubt });
		happenings.push(evidenceOf(came, delivery, doubt, at));
		if (delivery.lately >= passedOn.ofCopy || delivery.latelyAll >= passedOn.ofDispatch) continue;
		notices.push(copyOf(came, delivery, doubt));
	}
	await record(tx, happenings);
	await putNotices(tx, notices);
}
