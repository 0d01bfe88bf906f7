import { mailKey } from '../../../core/format/mail-address';
import { doubtOf } from '../../../core/track/auto-answer';
import { userById } from '../../access/user';
import { file } from '../../db/models/dispatch';
import type { NoticeRow } from '../../db/models/running';
import type { Query } from '../../db/open';
import { putNotices } from '../staff/notices';
import { keyFrom } from './answer-key';
import type { KeptAnswerFile } from './answer-files';
import { answerIn } from './answer-back';
import type { ReadAnswer } from './take-answers';

/** The letter that told a colleague of an answer, as far as what comes back to it needs it. */
type Told = Pick<NoticeRow, 'personId' | 'conversationId' | 'subject' | 'madeAt'> & {
	/** Every mailbox at which this colleague can have had it: JSON list. */
	readonly mailboxes: string;
	/** How many answers of theirs in its conversation, and letters to them of what was not sent, were made within an hour. */
	readonly answered: number;
	readonly refused: number;
};

/** The address of such a letter takes answers for so long, ms: old mail lies about, and whoever finds it must not speak for the school. */
const openMs = 30 * 86_400_000;
const hourMs = 3_600_000;
/** More answers by mail in a conversation within an hour, and more letters of what was not sent, are a machine's. */
const mostAnswers = 10;
const mostRefused = 5;

/**
 * What a colleague answered, in their own mail program, to a letter that told them of a family's answer: it goes to the
 * family from the school's address, without what is quoted and without the colleague's own address. Only from a
 * mailbox of that colleague, and only while they may see the conversation: a letter that was passed on
 * by mail does not let its reader speak for the school. What is not sent is said, and nothing of it is lost. In the caller's transaction.
 */
export async function answerByMail(
	tx: Query,
	key: Buffer,
	noticeId: number,
	mail: ReadAnswer,
	at: number
): Promise<void> {
	const told = await tx.one<Told>(
		`SELECT person_id AS personId, conversation_id AS conversationId, subject, made_at AS madeAt,
			(SELECT count(*) FROM conversation_copy JOIN delivery ON delivery.id = delivery_id JOIN dispatch ON dispatch.id = dispatch_id
				WHERE conversation_copy.conversation_id = notice.conversation_id AND sender_id = notice.person_id
				AND scheduled_at > $hourAgo) AS answered,
			(SELECT count(*) FROM notice AS other WHERE other.person_id = notice.person_id AND other.kind = 'not-sent'
				AND other.made_at > $hourAgo) AS refused,
			(SELECT json_group_array(value) FROM (SELECT value FROM address WHERE address.person_id = notice.person_id AND way = 'email'
				UNION SELECT notice.address WHERE notice.address IS NOT NULL)) AS mailboxes
		FROM notice WHERE id = $noticeId`,
		{ noticeId, hourAgo: at - hourMs }
	);
	if (!told || told.conversationId === null) return;
	const { personId, conversationId, subject } = told;
	const fromTheirs = (JSON.parse(told.mailboxes) as string[]).some(
		(mailbox) => mailKey(mailbox) === mailKey(mail.fromAddress)
	);
	// An absence note of their own, and what somebody else writes, goes to no family.
	if (doubtOf({ ...mail, afterMs: null, belongs: true }) !== null) return;
	const answerKey = keyFrom(`${noticeId} ${mail.messageKey}`);
	if (await tx.one('SELECT 1 FROM dispatch WHERE sheet_key = $answerKey', { answerKey })) return;
	const refuse = async (why: string): Promise<void> => {
		if (told.refused >= mostRefused) return;
		await putNotices(tx, [
			{
				key: `not sent ${noticeId} ${mail.messageKey}`,
				personId,
				kind: 'not-sent',
				subject: `Not sent: ${subject.replace(/^answer: /i, '')}`,
				text: [why, 'What was written:', mail.text || '(no words)'].join('\n\n'),
				conversationId: null,
				dispatchId: null,
				byMail: true
			}
		]);
	};
	if (!fromTheirs) {
		return refuse(
			`Somebody answered from ${mail.fromAddress} to a letter that went to you. It was not sent to the family, since that address is not yours here.`
		);
	}
	if (told.madeAt <= at - openMs)
		return refuse(
			'The letter that you answered is more than 30 days old. Answer in Replies, where all that was said since stands.'
		);
	if (told.answered >= mostAnswers)
		return refuse(
			`You have answered ${mostAnswers} times within an hour in this conversation. Answer in Replies, or later.`
		);
	const user = await userById(tx, personId);
	if (!user)
		return refuse(
			'You do not sign in here any more, so your answer by mail was not sent to the family.'
		);
	if (mail.text.trim() === '')
		return refuse('Your answer by mail has no words of its own, and was not sent to the family.');
	const answered = await answerIn(tx, key, user, {
		key: answerKey,
		conversations: [conversationId],
		words: mail.text.slice(0, 10_000),
		files: await filesOf(tx, personId, mail.files, at),
		...{ translated: null, way: null, atOnce: false, live: false }
	});
	if (!answered.ok)
		return refuse(`Your answer by mail was not sent to the family. ${answered.why}`);
	const lost = mail.files.filter((f) => f.hash === null);
	if (lost.length > 0)
		await refuse(
			`Your answer is on its way, without ${lost.map((f) => f.name).join(', ')}. ${lost.map((f) => f.why).join(' ')}`
		);
}

/** What came with a colleague's letter, as files of theirs that can be sent. */
async function filesOf(
	tx: Query,
	ownerId: number,
	kept: readonly KeptAnswerFile[],
	madeAt: number
): Promise<number[]> {
	const ids: number[] = [];
	for (const { hash, name, type, bytes, width, height } of kept) {
		if (hash === null) continue;
		ids.push(await tx.rows(file).add({ hash, name, type, bytes, width, height, ownerId, madeAt }));
	}
	return ids.slice(0, 10);
}
