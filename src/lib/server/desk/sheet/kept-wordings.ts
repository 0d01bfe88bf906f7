import { keptWording } from '../../db/models/dispatch';
import { z } from 'zod';
import { startingWordings } from '../../../core/copy/starting-wordings';
import { wordingSchema, type Wording } from '../../../core/copy/words';
import type { User } from '../../access/user';
import { now } from '../../clock';
import type { Db, Query } from '../../db/open';
import { keptNameSchema } from '../audience/kept';
import type { KeptWording } from './types';
import type { KeptWordingRow } from '../../db/models/dispatch';

export const keepWordingSchema = z.object({ name: keptNameSchema, wording: wordingSchema });

/** One's own kept wordings by name, then the starting set. One that can no longer be read is left out. */
export async function keptWordings(db: Query, user: User): Promise<KeptWording[]> {
	const rows = await db.all<Pick<KeptWordingRow, 'id' | 'name' | 'wording' | 'madeAt'>>(
		`SELECT id, name, wording, made_at AS madeAt FROM kept_wording WHERE made_by = $user
		ORDER BY name COLLATE NOCASE, id`,
		{ user: user.personId }
	);
	const own = rows.flatMap(({ wording, ...row }): KeptWording[] => {
		const parsed = wordingSchema.safeParse(JSON.parse(wording));
		return parsed.success ? [{ ...row, wording: parsed.data }] : [];
	});
	const begin = startingWordings.map((s): KeptWording => ({ ...s, id: null, madeAt: null }));
	return [...own, ...begin];
}

/** Keeps a wording under a name; one's own of the same name is exchanged. */
export async function keepWording(
	db: Db,
	user: User,
	name: string,
	wording: Wording
): Promise<void> {
	await db.write(async (tx) => {
		await tx.run('DELETE FROM kept_wording WHERE made_by = $user AND name = $name COLLATE NOCASE', {
			user: user.personId,
			name
		});
		await tx.rows(keptWording).add({
			name,
			wording: JSON.stringify(wording),
			madeBy: user.personId,
			madeAt: Math.round(await now(tx))
		});
	});
}

/** Gives one's own kept wording up; false where there is none. What was sent with it stays as it was. */
export async function giveUpWording(db: Db, user: User, id: number): Promise<boolean> {
	return (await db.rows(keptWording).remove({ id, madeBy: user.personId })) > 0;
}
