import { bodyText } from '../../../core/copy/plain';
import { wordingSchema } from '../../../core/copy/words';
import { userById } from '../../access/user';
import { now } from '../../clock';
import { liveFollow } from '../../db/models/talk';
import type { Db, Query } from '../../db/open';
import { keyFrom } from './answer-key';
import { answerIn } from './answer-back';
import { waysBack } from './ways-back';

/** When the next of them is due (job's clock, ms); null where none is. */
export async function nextFollow(db: Query): Promise<number | null> {
	const row = await db.one<{ at: number | null }>('SELECT min(due_at) AS at FROM live_follow');
	return row?.at ?? null;
}

/** Lets what was said live and not seen go by the family's way, as one message. How many conversations were dealt with. */
export async function followLines(db: Db, key: Buffer): Promise<number> {
	const due = await db.all<{ id: number }>(
		'SELECT conversation_id AS id FROM live_follow WHERE due_at <= $time ORDER BY due_at LIMIT 50',
		{ time: await now(db) }
	);
	for (const { id } of due) await db.write((tx) => followOne(tx, key, id));
	return due.length;
}

async function followOne(tx: Query, key: Buffer, conversationId: number): Promise<void> {
	const row = await tx.rows(liveFollow).one({ conversationId });
	if (!row) return;
	await tx.rows(liveFollow).remove({ conversationId });
	const unseen = await tx.all<{ id: number; wording: string }>(
		`SELECT delivery.id, wording FROM conversation_copy JOIN delivery ON delivery.id = delivery_id
		JOIN dispatch ON dispatch.id = delivery.dispatch_id
		WHERE conversation_id = $conversationId AND delivery.way = 'inbox' AND scheduled_at >= $since
			AND delivery.state NOT IN ('read', 'answered', 'failed') ORDER BY delivery.id`,
		{ conversationId, since: row.since }
	);
	if (unseen.length === 0) return;
	const at = Math.round(await now(tx));
	const open = (await waysBack(tx, [conversationId], at)).get(conversationId)?.ways ?? [];
	const back = open.find((w) => w.way !== 'inbox');
	const user = await userById(tx, row.senderId);
	// Who has nothing but a page finds it there.
	if (!back || !user) return;
	const words = unseen
		.map(({ wording }) => bodyText(wordingSchema.parse(JSON.parse(wording)).words.body).trim())
		.join('\n\n');
	await answerIn(tx, key, user, {
		key: keyFrom(`live ${conversationId} ${unseen.map((u) => u.id).join(' ')}`),
		conversations: [conversationId],
		words: words.slice(0, 10_000),
		...{ translated: null, way: back.way, files: [], atOnce: true, live: false }
	});
}
