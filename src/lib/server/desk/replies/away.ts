import { z } from 'zod';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { away, type AwayRow } from '../../db/models/talk';
import type { Db, Query } from '../../db/open';
import type { AwayNote } from './types';

export const awaySchema = z
	.object({
		/** Instants, ms. */
		from: z.number().int(),
		to: z.number().int(),
		words: z
			.string()
			.trim()
			.min(1, 'Say what whoever writes is told: until when, and whom to ask instead.')
			.max(600, 'An away note has 600 letters at most: it may go out as a text.')
	})
	.refine((a) => a.to > a.from, 'The end has to come after the start.')
	.refine((a) => a.to - a.from <= 200 * 86_400_000, 'An absence lasts 200 days at most.');

const columns = `id, starts_at AS startsAt, ends_at AS endsAt, words`;

/** The away note of a user that is in force or ahead; null where there is none. */
export async function awayNote(db: Query, user: User, time: number): Promise<AwayNote | null> {
	const row = await db.one<Pick<AwayRow, 'id' | 'startsAt' | 'endsAt' | 'words'>>(
		`SELECT ${columns} FROM away WHERE person_id = $me AND ends_at > $time AND ended_at IS NULL ORDER BY id DESC LIMIT 1`,
		{ me: user.personId, time }
	);
	if (!row) return null;
	const { n } = (await db.one<{ n: number }>(
		'SELECT count(*) AS n FROM away_told WHERE away_id = $id',
		{ id: row.id }
	))!;
	return { ...row, told: n };
}

/** Sets an away note in the place of the one there is; null, or why not. */
export async function setAway(
	db: Db,
	user: User,
	{ from, to, words }: z.infer<typeof awaySchema>
): Promise<string | null> {
	return db.write(async (tx) => {
		const at = Math.round(await now(tx));
		if (to <= at) return 'That end has passed. Say a later one.';
		await tx.run(
			'UPDATE away SET ended_at = $at WHERE person_id = $me AND ended_at IS NULL AND ends_at > $at',
			{ me: user.personId, at }
		);
		await tx
			.rows(away)
			.add({ personId: user.personId, startsAt: from, endsAt: to, words, madeAt: at });
		return null;
	});
}

/** Ends it before its end. */
export async function endAway(db: Db, user: User): Promise<void> {
	await db.write(async (tx) =>
		tx.run('UPDATE away SET ended_at = $at WHERE person_id = $me AND ended_at IS NULL', {
			me: user.personId,
			at: Math.round(await now(tx))
		})
	);
}
