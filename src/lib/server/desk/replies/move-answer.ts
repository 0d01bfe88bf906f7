import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import type { Db } from '../../db/open';
import { record } from '../track/record';
import { conversationsOf } from './conversations-of';
import { putActs, type Done } from './act';

/**
 * A text was taken for an answer to the last dispatch that went to its phone, and is about another: it moves into the
 * conversation about that one, with the evidence that it is. What was written down before stays written down.
 */
export async function moveAnswer(
	db: Db,
	user: User,
	answerId: number,
	dispatchId: number
): Promise<Done> {
	const { conversations, dispatches } = scope(user);
	return db.write(async (tx): Promise<Done> => {
		const answer = await tx.one<{ conversationId: number; at: number; from: string; text: string }>(
			`SELECT conversation_id AS conversationId, answer.at, from_address AS "from", text FROM answer
			JOIN conversation ON conversation.id = conversation_id
			WHERE answer.id = $answerId AND answer.way = 'text' AND ${conversations.sql}`,
			{ answerId, ...conversations.bind }
		);
		const copy = await tx.one<{ id: number }>(
			`SELECT delivery.id FROM delivery JOIN dispatch ON dispatch.id = dispatch_id
			WHERE dispatch_id = $dispatchId AND delivery.way = 'text' AND address = $from COLLATE NOCASE AND left_at IS NOT NULL
				AND ${dispatches.sql} LIMIT 1`,
			{ dispatchId, from: answer?.from ?? '', ...dispatches.bind }
		);
		if (!answer || !copy)
			return { ok: false, why: 'That dispatch did not go to this phone, or is not yours to see.' };
		const at = Math.round(await now(tx));
		const [to] = await conversationsOf(tx, [{ about: { deliveryId: copy.id }, way: 'text' }], at);
		await tx.run(
			'UPDATE OR IGNORE answer SET conversation_id = $to, delivery_id = $copy WHERE id = $answerId',
			{ to: to!.id, copy: copy.id, answerId }
		);
		// Where it was nothing may wait any more; where it is it waits, since it came.
		await tx.run(
			`UPDATE conversation SET unread = 1, alike = NULL, state = 'waiting', state_at = $at, last_at = $at,
				aside_until = NULL, since = min(coalesce(since, $came), $came) WHERE id = $to`,
			{ at, came: answer.at, to: to!.id }
		);
		await tx.run(
			`UPDATE conversation SET state = 'settled', since = NULL, state_at = $at, alike = NULL
			WHERE id = $id AND NOT EXISTS (SELECT 1 FROM answer WHERE conversation_id = $id AND answer.at >= conversation.since)`,
			{ at, id: answer.conversationId }
		);
		await putActs(tx, [to!.id], 'moved-here', user.personId, at);
		await record(tx, [
			{
				...{ deliveryId: copy.id, at, kind: 'answered', source: 'by hand', said: user.name },
				detail: `it was said that a text answers this: “${answer.text.slice(0, 120)}”`
			}
		]);
		return { ok: true, n: to!.id };
	});
}
