import { z } from 'zod';
import { toE164 } from '../../core/format/phone';
import type { User } from '../access/sessions';
import { addressesChanged } from '../db/roster';
import type { Db } from '../db/open';

export const ownNumberSchema = z.object({ number: z.string().trim().min(1).max(40) });

/** Puts the number on file to which somebody's own proofs go; whoever puts their own has opted in by it. */
export async function setOwnNumber(
	db: Db,
	user: User,
	typed: string
): Promise<{ ok: true; number: string } | { ok: false; why: string }> {
	const number = toE164(typed);
	if (number === null) {
		return { ok: false, why: `"${typed}" is no phone number. Write it like (207) 555-0143.` };
	}
	await db.write(async (tx) => {
		await tx.run(`DELETE FROM address WHERE person_id = $me AND way = 'text'`, {
			me: user.personId
		});
		await tx.run(
			`INSERT INTO address (person_id, way, value, consent) VALUES ($me, 'text', $number, 'in')`,
			{ me: user.personId, number }
		);
		await addressesChanged(tx, [user.personId]);
	});
	return { ok: true, number };
}
