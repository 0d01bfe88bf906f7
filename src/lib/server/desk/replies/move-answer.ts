import { writeDown } from '../../access/log';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import type { Db } from '../../db/open';
import { record } from '../track/record';
import type { Way } from '../../../core/roster/way';
import { othersMeant } from './others-meant';
import { conversationsOf } from './conversations-of';
import { putActs, type Done } from './act';

/**
 * An answer was taken to be about the last dispatch that it could be about, and is about another: it moves into the
 * conversation about that one, with the evidence that it is. What was written down before stays written down.
 */
export async function moveAnswer(
	db: Db,
	user: User,
	answerId: number,
	dispatchId: number
): Promise<Done> {
	const { conversations } = scope(user);
	return db.write(async (tx): Promise<Done> => {
		const answer = await tx.one<{
			conversationId: number;
			at: number;
			way: Way;
			text: string;
		}>(
			`SELECT conversation_id AS conversationId, answer.at, answer.way, text FROM answer
			JOIN conversation ON conversation.id = conversation_id
			WHERE answer.id = $answerId AND ${conversations.sql}`,
			{ answerId, ...conversations.bind }
		);
		const copy =
			answer &&
			(await othersMeant(tx, user, [answerId]))
				.get(answerId)
				?.find((other) => other.dispatchId === dispatchId);
		if (!copy)
			return {
				ok: false,
				why: 'That dispatch did not go to this address, or is not yours to see.'
			};
		const at = Math.round(await now(tx));
		const [to] = await conversationsOf(
			tx,
			[{ about: { deliveryId: copy.deliveryId }, way: answer.way }],
			at
		);
		await tx.run(
			'UPDATE OR IGNORE answer SET conversation_id = $to, delivery_id = $copy WHERE id = $answerId',
			{ to: to!.id, copy: copy.deliveryId, answerId }
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
				...{
					deliveryId: copy.deliveryId,
					at,
					kind: 'answered',
					source: 'by hand',
					said: user.name
				},
				detail: `it was said that ${answer.way === 'text' ? 'a text' : 'a mail'} answers this: “${answer.text.slice(0, 120)}”`
			}
		]);
		await writeDown(tx, {
			...{ act: 'answer-moved', by: user, to: ['dispatch', dispatchId] }
		});
		return { ok: true, n: to!.id };
	});
}
