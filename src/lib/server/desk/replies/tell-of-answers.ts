import type { Way } from '../../../core/roster/way';
import { doubtWords } from '../../../core/track/auto-answer';
import type { DispatchRow } from '../../db/models/dispatch';
import type { ConversationRow } from '../../db/models/talk';
import type { Query } from '../../db/open';
import { letterSchema } from '../sheet/sheet';
import { putNotices, type Notice } from '../staff/notices';
import type { PutAnswer } from './put-answers';

/** Answers told of within an hour, of one conversation and of a whole dispatch: two machines that answer each other fill nobody's mailbox. What is beyond is kept all the same. */
const toldOf = { inOne: 5, ofDispatch: 200, hourMs: 3_600_000 } as const;

/** Who is told of what comes into a conversation, and how much they were told lately. */
type Told = Pick<ConversationRow, 'dispatchId' | 'subject'> & {
	readonly id: number;
	readonly person: string | null;
	readonly students: string;
	readonly dispatchSubject: DispatchRow['subject'] | null;
	readonly letter: DispatchRow['letter'] | null;
	/** Who answers here: JSON list. */
	readonly tellIds: string;
	readonly lately: number;
	readonly latelyAll: number;
};

async function whoIsTold(
	tx: Query,
	conversationIds: readonly number[],
	since: number
): Promise<Map<number, Told>> {
	const rows = await tx.all<Told>(
		`SELECT conversation.id, conversation.dispatch_id AS dispatchId, conversation.subject,
			dispatch.subject AS dispatchSubject, letter, given_name || ' ' || family_name AS person,
			coalesce((SELECT group_concat(name, ', ') FROM (SELECT DISTINCT given_name || ' ' || family_name AS name
				FROM delivery JOIN delivery_student ON delivery_id = delivery.id JOIN person AS student ON student.id = student_id
				WHERE delivery.dispatch_id = conversation.dispatch_id AND delivery.person_id = conversation.person_id)), '') AS students,
			(SELECT json_group_array(id) FROM (SELECT handler_id AS id WHERE handler_id IS NOT NULL
				UNION SELECT person_id FROM section_staff WHERE handler_id IS NULL AND section_staff.section_id = conversation.section_id
				UNION SELECT person_id FROM conversation_guest WHERE conversation_id = conversation.id)) AS tellIds,
			(SELECT count(*) FROM answer WHERE conversation_id = conversation.id AND at > $since) AS lately,
			(SELECT count(*) FROM notice WHERE kind = 'answer' AND notice.dispatch_id = conversation.dispatch_id AND made_at > $since) AS latelyAll
		FROM conversation LEFT JOIN dispatch ON dispatch.id = conversation.dispatch_id
		LEFT JOIN person ON person.id = conversation.person_id
		WHERE conversation.id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify([...new Set(conversationIds)]), since }
	);
	return new Map(rows.map((row) => [row.id, row]));
}

const byWay: Readonly<Record<Way, string>> = {
	email: 'by mail',
	text: 'by text',
	inbox: 'on their page'
};

/** The letter that tells of one answer. */
function noticeOf({ id, came, kind }: PutAnswer, told: Told, personId: number): Notice {
	const subject = told.dispatchSubject ?? told.subject;
	const { person, students, dispatchId } = told;
	const about = students ? ` for ${students}` : '';
	const from = came.known ? byWay[came.way] : `from another address, ${came.fromAddress}`;
	const who = person ?? came.fromAddress;
	const files = came.files.map((f) =>
		f.hash === null ? `${f.name} (not kept: ${f.why})` : f.name
	);
	return {
		key: `answer ${id} ${personId}`,
		personId,
		kind: 'answer',
		subject: `Answer: ${subject}`,
		text: [
			dispatchId === null
				? `${who} wrote ${from} about “${subject}”:`
				: `${who} answered “${subject}”${about}, ${from}:`,
			...(came.doubt
				? [`This may be a machine’s answer: ${doubtWords[came.doubt]}.`]
				: came.known
					? []
					: [
							'That address is not on file for them: anybody who has the letter can have written it.'
						]),
			came.text,
			...(files.length > 0 ? [`With it came: ${files.join(', ')}.`] : []),
			kind === 'announcement'
				? 'It was an announcement, to which no answer was asked for. It stands in Replies.'
				: 'It stands in Replies. What you answer to this letter goes to this one person from the school’s address, without your own.'
		].join('\n\n'),
		address:
			told.letter === null
				? null
				: letterSchema.parse(JSON.parse(told.letter)).replyTo.trim() || null,
		conversationId: told.id,
		dispatchId,
		byMail: true
	};
}

/** Tells whoever answers here of what has come in, by mail. In the caller's transaction. */
export async function tellOfAnswers(
	tx: Query,
	put: readonly PutAnswer[],
	at: number
): Promise<void> {
	if (put.length === 0) return;
	const who = await whoIsTold(
		tx,
		put.map((p) => p.conversationId),
		at - toldOf.hourMs
	);
	const lately = new Map<number, number>();
	const notices: Notice[] = [];
	for (const one of put) {
		const told = who.get(one.conversationId)!;
		const of = told.dispatchId ?? 0;
		const ofDispatch = lately.get(of) ?? told.latelyAll;
		if (told.lately > toldOf.inOne || ofDispatch >= toldOf.ofDispatch) continue;
		lately.set(of, ofDispatch + 1);
		for (const personId of JSON.parse(told.tellIds) as number[]) {
			notices.push(noticeOf(one, told, personId));
		}
	}
	await putNotices(tx, notices);
}
