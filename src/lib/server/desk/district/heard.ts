import { randomInt } from 'node:crypto';
import { z } from 'zod';
import type { WayOut } from '../../../core/roster/way';
import { hashToken, sameSecret } from '../../access/tokens';
import type { User } from '../../access/user';
import { dropSetting, readSetting, writeSetting } from '../../db/district';
import type { Db, Query } from '../../db/open';
import type { Said } from '../../said';

/** What is known of what was sent to try a provider: who has it, and by which figures they can tell. */
const heardSchema = z.object({
	by: z.number().int(),
	codeHash: z.string(),
	at: z.number().int(),
	/** When the figures came back; null while they have not. */
	heardAt: z.number().int().nullable(),
	tries: z.number().int()
});
type Heard = z.infer<typeof heardSchema>;

/** A code of six figures is guessed by nobody in so many tries. */
const most = 5;
const keyOf = (way: WayOut) => `heard-${way}`;

/** What is written into what is sent to try a way. */
export const sixFigures = (): string => String(randomInt(100_000, 1_000_000));

/** Notes that something was sent to try a way; null forgets what was noted. */
export const putHeard = (
	tx: Query,
	way: WayOut,
	sent: { readonly by: number; readonly figures: string } | null
): Promise<void> =>
	sent === null
		? dropSetting(tx, keyOf(way))
		: writeSetting(tx, keyOf(way), {
				...{ by: sent.by, codeHash: hashToken(sent.figures) },
				...{ at: Date.now(), heardAt: null, tries: 0 }
			} satisfies Heard);

export async function readHeard(db: Query, way: WayOut): Promise<Heard | null> {
	const value = await readSetting(db, keyOf(way));
	return value === undefined ? null : heardSchema.parse(value);
}

/** Whether something was sent to try a way whose figures a user can tell, and whether it has arrived. */
export async function heardOf(
	db: Query,
	user: User,
	way: WayOut
): Promise<'open' | 'here' | 'none'> {
	const heard = await readHeard(db, way);
	if (heard?.heardAt) return 'here';
	return heard && heard.by === user.personId && heard.tries < most ? 'open' : 'none';
}

export const codeSchema = z
	.string()
	.max(40)
	.transform((typed) => typed.normalize('NFKC').replace(/\s/g, ''))
	.pipe(z.string().regex(/^\d{6}$/, 'Write the six figures that stand in it.'));

/** Says that what was sent has arrived, by the figures in it. */
export const sayHeard = (db: Db, user: User, way: WayOut, code: string): Promise<Said> =>
	db.write(async (tx): Promise<Said> => {
		const heard = await readHeard(tx, way);
		if (!heard || heard.by !== user.personId || heard.heardAt !== null || heard.tries >= most)
			return { ok: false, why: 'Try it once more, and take the figures that come then.' };
		const fits = sameSecret(heard.codeHash, hashToken(code));
		await writeSetting(tx, keyOf(way), {
			...heard,
			...(fits ? { heardAt: Date.now() } : { tries: heard.tries + 1 })
		});
		return fits
			? { ok: true }
			: { ok: false, why: 'These are not the figures that were sent. Look at the newest one.' };
	});
