import { z } from 'zod';
import { dropSetting, hasDistrict, readSetting, writeSetting } from '../db/district';
import type { Db, Query } from '../db/open';
import { hashToken, newToken, sameSecret } from './tokens';

const settingKey = 'first-key';
const keptSchema = z.object({ hash: z.string() });

/**
 * Makes the key with which the first person comes in, while nobody can sign in; null where somebody can. Only its hash
 * is kept, and the one of before is good no more: it is printed at each start until it is used.
 */
export const makeFirstKey = (db: Db): Promise<string | null> =>
	db.write(async (tx) => {
		if (await isFounded(tx)) return null;
		const token = newToken();
		await writeSetting(tx, settingKey, { hash: hashToken(token) });
		return token;
	});

const isFounded = async (db: Query): Promise<boolean> =>
	(await hasDistrict(db)) || (await db.one('SELECT 1 FROM sign_in')) !== undefined;

/** Whether a key is the one that was printed, and nobody has come in by it yet. */
export async function firstKeyFits(db: Query, token: string): Promise<boolean> {
	if (await isFounded(db)) return false;
	const kept = keptSchema.safeParse(await readSetting(db, settingKey));
	return kept.success && sameSecret(kept.data.hash, hashToken(token));
}

/** Uses the key up, in the transaction that lets the first person in; false where it does not fit, or somebody was first. */
export async function useFirstKey(tx: Query, token: string): Promise<boolean> {
	if (!(await firstKeyFits(tx, token))) return false;
	await dropSetting(tx, settingKey);
	return true;
}
