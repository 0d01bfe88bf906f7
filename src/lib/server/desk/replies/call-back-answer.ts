import { writeDown } from '../../access/log';
import { bodyText } from '../../../core/copy/plain';
import { wordingSchema } from '../../../core/copy/words';
import { isAllowed } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { touched } from '../../db/copy-state';
import type { DispatchRow } from '../../db/models/dispatch';
import type { Db } from '../../db/open';
import { putActs } from './act';

/**
 * Calls an answer back before any copy of it has left: it is gone, its conversations wait again as they did, and its words
 * are given back to be changed. The write lock and the courier's claim decide who came first.
 */
export async function callBackAnswer(
	db: Db,
	user: User,
	dispatchId: number
): Promise<
	{ readonly ok: true; readonly words: string } | { readonly ok: false; readonly why: string }
> {
	return db.write(async (tx) => {
		const row = await tx.one<Pick<DispatchRow, 'senderId' | 'wording'> & { gone: number }>(
			`SELECT sender_id AS senderId, wording,
				(SELECT count(*) FROM delivery WHERE dispatch_id = dispatch.id AND ${touched}) AS gone
			FROM dispatch WHERE id = $dispatchId AND kind = 'answer'`,
			{ dispatchId }
		);
		if (!row || !isAllowed(user, 'handle', row.senderId))
			return { ok: false, why: 'There is no such answer of yours any more.' };
		if (row.gone > 0)
			return {
				ok: false,
				why: `${row.gone === 1 ? 'It has' : `${row.gone} copies have`} left and can no longer be called back.`
			};
		const talks = (
			await tx.all<{ id: number }>(
				`SELECT conversation_id AS id FROM conversation_copy JOIN delivery ON delivery.id = delivery_id
				WHERE dispatch_id = $dispatchId`,
				{ dispatchId }
			)
		).map((r) => r.id);
		await tx.run('DELETE FROM dispatch WHERE id = $dispatchId', { dispatchId });
		const at = Math.round(await now(tx));
		// What came since our last answer that stands waits again, since it came.
		await tx.run(
			`UPDATE conversation SET state = 'waiting', state_at = $at, aside_until = NULL,
				since = coalesce((SELECT min(at) FROM answer WHERE conversation_id = conversation.id AND at > coalesce(
					(SELECT max(scheduled_at) FROM conversation_copy JOIN delivery ON delivery.id = delivery_id
						JOIN dispatch ON dispatch.id = delivery.dispatch_id
						WHERE conversation_copy.conversation_id = conversation.id), 0)), $at)
			WHERE id IN (SELECT value FROM json_each($talks))`,
			{ at, talks: JSON.stringify(talks) }
		);
		await putActs(tx, talks, 'called-back', user.personId, at);
		await writeDown(tx, {
			...{ act: 'answer-called-back', by: user, to: ['dispatch', dispatchId] },
			before: { conversations: talks }
		});
		return {
			ok: true,
			words: bodyText(wordingSchema.parse(JSON.parse(row.wording)).words.body).trim()
		};
	});
}
