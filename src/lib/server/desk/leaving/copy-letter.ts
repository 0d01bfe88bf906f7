import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { deliveryFacts } from '../../db/copy-facts';
import { dispatchLetters } from '../sheet/letters';
import { messageIdOf, sentAs, type SentAs } from '../track/sent-as';
import { composeLetter } from './compose-letter';
import type { LettersHouse } from './letter-out';

/** What a copy is found and signed by. */
interface CopiesHouse extends LettersHouse {
	readonly key: Buffer;
	/** The domain that its Message-ID is of. */
	readonly returnDomain: string;
}

/**
 * One copy that has left, as the letter that its reader got (RFC 5322), without their private link; null where a user
 * may not see it, or it has not left. By another way than mail it is the letter that it would have been.
 */
export async function copyLetter(
	house: CopiesHouse,
	user: User,
	dispatchId: number,
	copyId: number
): Promise<Buffer | null> {
	const { db, key, publicUrl, returnDomain } = house;
	const seen = scope(user).dispatches;
	const copy = await db.one<SentAs & { id: number; way: string; at: number }>(
		`SELECT delivery.id, way, left_at AS at, ${sentAs} FROM delivery JOIN dispatch ON dispatch.id = dispatch_id
		WHERE delivery.id = $copyId AND dispatch_id = $dispatchId AND left_at IS NOT NULL AND ${seen.sql}`,
		{ copyId, dispatchId, ...seen.bind }
	);
	if (!copy) return null;
	const facts = (await deliveryFacts(db, [copyId])).get(copyId)!;
	const { letters } = await dispatchLetters(db, dispatchId);
	const { octets } = await composeLetter(house, {
		...{ dispatchId, copyId, at: copy.at },
		letter: letters.email({ ...facts, link: `${publicUrl}/in`, mayStop: false }),
		...(copy.way === 'email' ? { messageId: messageIdOf(key, copy, returnDomain) } : {}),
		comments: 'The private link of its reader is left out.'
	});
	return octets;
}
