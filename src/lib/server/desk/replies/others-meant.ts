import { groupBy } from '../../../core/group-by';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { readDistrict } from '../../db/district';
import type { Query } from '../../db/open';

/** Another copy that an answer may be about. */
export interface OtherMeant {
	readonly answerId: number;
	readonly dispatchId: number;
	readonly subject: string;
	readonly deliveryId: number;
}

/** Looked at of each answer. */
const most = 20;

/**
 * What else answers may be about, of what the user may see, by answer, the latest first: of a text the other dispatches that
 * went to its phone in the days before, of a mail to a digest the other letters in it.
 */
export async function othersMeant(
	db: Query,
	user: User,
	answerIds: readonly number[]
): Promise<ReadonlyMap<number, readonly OtherMeant[]>> {
	const seen = scope(user).dispatches;
	const { textAnswerDays } = await readDistrict(db);
	const rows = await db.all<OtherMeant>(
		`SELECT answerId, dispatchId, subject, deliveryId FROM (
			SELECT mine.*, subject, row_number() OVER (PARTITION BY answerId, dispatchId ORDER BY leftAt DESC) AS again FROM (
				SELECT answer.id AS answerId, conversation.dispatch_id AS own, delivery.dispatch_id AS dispatchId,
					delivery.id AS deliveryId, left_at AS leftAt
				FROM answer JOIN conversation ON conversation.id = conversation_id
				JOIN delivery ON delivery.address = from_address COLLATE NOCASE AND delivery.way = 'text'
					AND left_at <= answer.at AND left_at > answer.at - $window
				WHERE answer.id IN (SELECT value FROM json_each($ids)) AND answer.way = 'text'
				UNION ALL SELECT answer.id, conversation.dispatch_id, other.dispatch_id, other.id, other.left_at
				FROM answer JOIN conversation ON conversation.id = conversation_id
				JOIN delivery ON delivery.id = answer.delivery_id JOIN delivery AS other ON other.digest_id = delivery.digest_id
				WHERE answer.id IN (SELECT value FROM json_each($ids)) AND answer.way = 'email' AND other.left_at IS NOT NULL) AS mine
			JOIN dispatch ON dispatch.id = dispatchId AND dispatch.kind != 'answer'
			WHERE dispatchId IS NOT own AND ${seen.sql})
		WHERE again = 1 ORDER BY deliveryId DESC LIMIT ${most * Math.max(1, answerIds.length)}`,
		{ ids: JSON.stringify(answerIds), window: textAnswerDays * 86_400_000, ...seen.bind }
	);
	return groupBy(rows, (r) => r.answerId);
}
