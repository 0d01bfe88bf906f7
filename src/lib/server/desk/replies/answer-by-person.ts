import { familyWrote } from '../../../core/talk/conversation';
import { answer as answers, conversation, type AnswerRow } from '../../db/models/talk';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import type { Db } from '../../db/open';
import { record } from '../track/record';
import { putActs } from './act';

/** Writes down that a person has looked at an answer that may have been a machine's, and found that somebody wrote it: then it counts, and its conversation waits. Returns whether there is such an answer. */
export async function answeredByPerson(db: Db, user: User, answerId: number): Promise<boolean> {
	return db.write(async (tx) => {
		const seen = scope(user).conversations;
		const answer = await tx.one<
			Pick<AnswerRow, 'deliveryId' | 'conversationId' | 'at'> & { since: number | null }
		>(
			`SELECT delivery_id AS deliveryId, conversation_id AS conversationId, answer.at, since FROM answer
			JOIN conversation ON conversation.id = conversation_id WHERE answer.id = $id AND doubt IS NOT NULL AND ${seen.sql}`,
			{ id: answerId, ...seen.bind }
		);
		if (!answer) return false;
		const { conversationId, deliveryId } = answer;
		const at = Math.round(await now(tx));
		await tx.rows(answers).change({ id: answerId }, { doubt: null });
		const before = {
			state: 'settled',
			asideUntil: null,
			since: answer.since,
			unread: true
		} as const;
		const { state, since } = familyWrote(before, answer.at);
		await tx.rows(conversation).change({ id: conversationId }, { state, stateAt: at, since });
		await putActs(tx, [conversationId], 'by-a-person', user.personId, at);
		if (deliveryId === null) return true;
		await record(tx, [
			{
				...{ deliveryId, at, kind: 'answered', source: 'by hand', said: user.name },
				detail: 'it was said that a person wrote the answer'
			}
		]);
		return true;
	});
}
