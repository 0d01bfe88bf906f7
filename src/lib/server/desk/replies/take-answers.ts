import { doubtOf, type Doubt } from '../../../core/track/auto-answer';
import type { DeliveryRow } from '../../db/models/delivery';
import { rowSet } from '../../db/many';
import type { Query } from '../../db/open';
import type { MailAnswer } from '../../gateway/return-mail';
import { record, type Happening } from '../track/record';
import { messageIdOf, sentAs, type SentAs } from '../track/sent-as';
import type { KeptAnswerFile } from './answer-files';
import { answersCame } from './answers-came';
import type { CameIn } from './put-answers';

/** An answer by mail as it came in: of its files what was kept of them. */
export type ReadAnswer = Omit<MailAnswer, 'files'> & { readonly files: readonly KeptAnswerFile[] };

/** A letter that a person wrote, and the copy it is about: it came to its address for answers, or the one for what mail systems say. */
export interface MailCame {
	readonly deliveryId: number;
	readonly mailbox: 'answer' | 'return';
	readonly answer: ReadAnswer;
}

/** Whether an answer names the letter it was sent to (In-Reply-To, References). */
const namesLetter = (
	key: Buffer,
	copy: SentAs & { readonly id: number },
	answersTo: readonly string[]
): boolean => {
	const ours = messageIdOf(key, copy, '');
	const mark = ours.slice(0, ours.indexOf('@') + 1);
	return answersTo.some((id) => id.startsWith(mark));
};

/** What decides how an answer is taken. */
type Answered = SentAs &
	Pick<DeliveryRow, 'leftAt'> & {
		/** Whether its reader has the answer's address on file. */
		readonly known: number;
	};

const cameSet = rowSet('$rows', ['n', 'id', 'address']);

/** Of each answer the delivery it came to; nothing where there is none (any more). */
async function readAnswered(
	tx: Query,
	group: readonly MailCame[]
): Promise<ReadonlyMap<number, Answered>> {
	const rows = await tx.all<Answered & { n: number }>(
		`SELECT came.n, ${sentAs}, left_at AS leftAt,
			(delivery.address = came.address COLLATE NOCASE OR EXISTS (SELECT 1 FROM address
				WHERE value = came.address COLLATE NOCASE AND (address.person_id = delivery.person_id
					OR address.person_id IN (SELECT person_id FROM delivery_also WHERE delivery_id = delivery.id)))) AS known
		FROM ${cameSet.table} AS came JOIN delivery ON delivery.id = came.id`,
		{
			rows: cameSet.json(
				group.map(({ deliveryId, answer }, n) => ({
					...{ n, id: deliveryId, address: answer.fromAddress }
				}))
			)
		}
	);
	return new Map(rows.map(({ n, ...answered }) => [n, answered]));
}

/** What makes an answer doubtful as a person's; null where nothing does. */
const doubtIn = (
	key: Buffer,
	{ deliveryId, answer }: MailCame,
	{ leftAt, ...as }: Answered,
	at: number
): Doubt | null =>
	doubtOf({
		subject: answer.subject,
		text: answer.text,
		afterMs: leftAt === null ? null : at - leftAt,
		belongs: answer.quotes || namesLetter(key, { id: deliveryId, ...as }, answer.answersTo)
	});

/** What only came to the wrong one of our addresses: whoever has a letter knows where answers go, and must not be able to say from there that it was returned. */
export const atWrongAddress = (deliveryId: number, at: number, what: string): Happening => ({
	deliveryId,
	at,
	kind: 'noted',
	source: 'notification',
	code: 'wrong-mailbox',
	detail: `${what} came to an address that is not for it, which settles nothing`
});

/**
 * Takes answers by mail in: each is kept in its conversation, is evidence on its delivery, and whoever answers
 * is told. An answer from an address that its reader does not have on file is kept as well, as fair
 * evidence: whoever has the letter has the answer address. One that may be a machine's is kept as such: it counts as
 * nobody's until a person says otherwise.
 */
export async function takeAnswers(
	tx: Query,
	key: Buffer,
	group: readonly MailCame[],
	at: number
): Promise<void> {
	if (group.length === 0) return;
	const answered = await readAnswered(tx, group);
	const elsewhere: Happening[] = [];
	const came = group.flatMap((one, n): CameIn[] => {
		const to = answered.get(n);
		if (!to) return [];
		const doubt = doubtIn(key, one, to, at);
		// Vacation programs write to where reports go (RFC 3834 section 4); a person whose program does is heard all the same.
		if (one.mailbox === 'return' && doubt !== null) {
			elsewhere.push(atWrongAddress(one.deliveryId, at, 'a letter'));
			return [];
		}
		const { fromName, fromAddress, subject, text, whole, messageKey, files } = one.answer;
		return [
			{
				...{ fromName, fromAddress, subject, text, whole, messageKey, files },
				about: { deliveryId: one.deliveryId },
				way: 'email',
				known: to.known === 1,
				messageId: one.answer.messageId,
				doubt
			}
		];
	});
	await record(tx, elsewhere, { once: true });
	await answersCame(tx, came, at);
}
