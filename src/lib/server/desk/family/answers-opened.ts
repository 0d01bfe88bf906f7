import type { Opened } from '../../access/private-link';
import { hasLeft } from '../../db/copy-state';
import type { Db } from '../../db/open';
import type { Visitor } from '../track/types';
import { letterHappened } from './letter-happened';

/** What we answered about a letter stands below it: where the letter stood open, so did they. */
export async function answersStoodOpen(
	db: Db,
	opened: Extract<Opened, { ok: true }>,
	dispatchId: number,
	visitor: Visitor
): Promise<void> {
	const unread = await db.all<{ id: number }>(
		`SELECT DISTINCT delivery.dispatch_id AS id FROM conversation
		JOIN conversation_copy ON conversation_id = conversation.id JOIN delivery ON delivery.id = delivery_id
		WHERE conversation.dispatch_id = $dispatchId AND conversation.person_id = $person
			AND ${hasLeft} AND delivery.state NOT IN ('read', 'answered', 'failed') LIMIT 50`,
		{ dispatchId, person: opened.personId }
	);
	for (const { id } of unread) await letterHappened(db, opened, id, 'opened', visitor);
}
