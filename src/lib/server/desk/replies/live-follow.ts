import type { Query } from '../../db/open';

/** After so long what a family that had left has not seen goes by their way, ms (two minutes). */
export const followMs = 120_000;

/** Notes that a line was said while both were there: unless it is seen it goes by their way later, with those that follow it. In the caller's transaction. */
export async function followLater(
	tx: Query,
	{
		conversationId,
		senderId,
		at
	}: { readonly conversationId: number; readonly senderId: number; readonly at: number }
): Promise<void> {
	await tx.run(
		`INSERT INTO live_follow (conversation_id, sender_id, since, due_at) VALUES ($conversationId, $senderId, $at, $due)
		ON CONFLICT (conversation_id) DO UPDATE SET due_at = excluded.due_at, sender_id = excluded.sender_id`,
		{ conversationId, senderId, at, due: at + followMs }
	);
}
