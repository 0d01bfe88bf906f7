import { messageId } from '../../access/tokens';
import type { Query } from '../../db/open';
import { messageIdOf, type SentAs } from '../track/sent-as';

/** By which a mail program puts a letter beside those that it answers (RFC 5322 section 3.6.4). */
export interface Thread {
	readonly inReplyTo: string;
	/** The oldest first. */
	readonly references: readonly string[];
}

/** So many letters are named: the first, and the newest (common practice). */
const mostNamed = 12;

/** The threads of copies that are answers of ours, by copy: the letter that was answered, the family's letters, and our answers before. */
export async function threadsOf(
	db: Query,
	key: Buffer,
	domain: string,
	deliveryIds: readonly number[]
): Promise<ReadonlyMap<number, Thread>> {
	if (deliveryIds.length === 0) return new Map();
	const rows = await db.all<{
		deliveryId: number;
		root: string | null;
		theirs: string;
		ours: string;
	}>(
		`SELECT copy.delivery_id AS deliveryId,
			(SELECT json_object('id', delivery.id, 'nonce', delivery.nonce, 'digestId', digest_id,
				'digestNonce', (SELECT digest.nonce FROM digest WHERE digest.id = digest_id)) FROM delivery JOIN conversation ON conversation.id = copy.conversation_id
				AND delivery.dispatch_id = conversation.dispatch_id AND delivery.person_id = conversation.person_id
				WHERE delivery.way = 'email' LIMIT 1) AS root,
			(SELECT json_group_array(json_array(at, message_id)) FROM answer
				WHERE conversation_id = copy.conversation_id AND message_id IS NOT NULL) AS theirs,
			(SELECT json_group_array(json_array(left_at, delivery.id, nonce)) FROM conversation_copy AS before
				JOIN delivery ON delivery.id = before.delivery_id
				WHERE before.conversation_id = copy.conversation_id AND before.delivery_id < copy.delivery_id
					AND delivery.way = 'email' AND left_at IS NOT NULL) AS ours
		FROM conversation_copy AS copy WHERE copy.delivery_id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify(deliveryIds) }
	);
	const threads = new Map<number, Thread>();
	for (const { deliveryId, root, theirs, ours } of rows) {
		const first =
			root === null ? [] : [messageIdOf(key, JSON.parse(root) as SentAs & { id: number }, domain)];
		const later = [
			...(JSON.parse(theirs) as [number, string][]).map(([at, id]) => ({ at, id })),
			...(JSON.parse(ours) as [number, number, string][]).map(([at, id, nonce]) => ({
				at,
				id: messageId(key, 'return', { id, nonce }, domain)
			}))
		]
			.sort((a, b) => a.at - b.at)
			.map((m) => m.id);
		const references = [...first, ...later.slice(-mostNamed)];
		if (references.length === 0) continue;
		// What is answered is what the family wrote last by mail, or else our own letter.
		const newest = (JSON.parse(theirs) as [number, string][]).sort((a, b) => a[0] - b[0]).at(-1);
		threads.set(deliveryId, { inReplyTo: newest?.[1] ?? references.at(-1)!, references });
	}
	return threads;
}
