import { randomBytes } from 'node:crypto';
import { rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import { writeDown } from '../../access/log';
import { isAllowed } from '../../access/may';
import { hashToken, newToken, sameSecret } from '../../access/tokens';
import type { User } from '../../access/user';
import { jobOffset } from '../../clock';
import { leavingFolder } from '../../db/file-store';
import { leaving, type LeavingRow } from '../../db/models/leaving';
import type { Db } from '../../db/open';
import type { Said } from '../../said';
import type { PackHouse } from './pack';
import { leavingParts, type LeavingPart, type LeavingView } from './types';

/** How long a package may be taken, ms. */
const dayMs = 86_400_000;
/** How long it stays when all of it was sent, ms: what was lost on the way is asked for again. */
const againMs = 3_600_000;

export const packSchema = z.object({
	parts: z
		.array(z.enum(leavingParts))
		.min(1, 'Choose what is to be packed up.')
		.transform((parts) => leavingParts.filter((p) => parts.includes(p)))
});

const notYours = {
	ok: false,
	why: 'Everything leaves only by whoever looks after the settings of the whole district.'
} as const;

/** What goes on in this process; what the database calls under way and is not here, has ended with the process that made it. */
const underWay = new Map<number, number>();

/** When a package's file goes. */
const untilOf = (row: LeavingRow): number =>
	Math.min(
		(row.madeAt ?? row.askedAt) + dayMs,
		row.takenAt === null ? Infinity : row.takenAt + againMs
	);

const fileOf = (dataFolder: string, { file }: Pick<LeavingRow, 'file'>): string =>
	join(leavingFolder(dataFolder), file!);
/** Whether a package is still on the disk: a backup that was put back knows of some that are not. */
const isThere = async (dataFolder: string, row: Pick<LeavingRow, 'file'>): Promise<boolean> =>
	(await stat(fileOf(dataFolder, row)).catch(() => null)) !== null;

/** Takes files away whose time is over, and calls failed what nobody makes any more. */
export async function clearLeaving(db: Db, dataFolder: string): Promise<void> {
	const rows = await db.all<LeavingRow>(
		`SELECT id, state, file, asked_at AS askedAt, made_at AS madeAt, taken_at AS takenAt FROM leaving
		WHERE state IN ('making', 'ready', 'taken')`
	);
	for (const row of rows) {
		if (row.state === 'making') {
			if (!underWay.has(row.id))
				await db
					.rows(leaving)
					.change(
						{ id: row.id, state: 'making' },
						{ state: 'failed', why: 'The server was started anew meanwhile. Pack it up once more.' }
					);
		} else if (untilOf(row) <= Date.now() || !(await isThere(dataFolder, row))) {
			await rm(fileOf(dataFolder, row), { force: true });
			await db.rows(leaving).change({ id: row.id }, { state: 'gone', tokenHash: null });
		}
	}
}

/** How packing is done: by a process of its own. */
export type Packing = (
	user: User,
	asked: { readonly file: string; readonly parts: readonly LeavingPart[] },
	heard: PackHouse['heard']
) => Promise<number>;

/** Begins to pack parts up; it goes on when this resolves. One at a time. */
export async function beginPacking(
	db: Db,
	user: User,
	parts: readonly LeavingPart[],
	packing: Packing
): Promise<Said<{ readonly id: number; readonly done: Promise<void> }>> {
	if (!isAllowed(user, 'take-all-along')) return notYours;
	if (underWay.size > 0)
		return { ok: false, why: 'Something is being packed up already. Wait until it is done.' };
	const file = `everything-${randomBytes(8).toString('hex')}.zip`;
	const id = await db.write(async (tx) => {
		const made = await tx.rows(leaving).add({
			...{ askedBy: user.personId, askedAt: Date.now(), parts: JSON.stringify(parts) },
			...{ state: 'making', file, bytes: null, madeAt: null, why: null },
			...{ tokenHash: null, openedIn: null, takenAt: null }
		});
		await writeDown(tx, { act: 'packed-up', by: user, after: { parts: [...parts] } });
		return made;
	});
	underWay.set(id, 0);
	const end = async (change: Partial<LeavingRow>) => {
		await db.rows(leaving).change({ id }, change);
		underWay.delete(id);
	};
	const done = packing(user, { file, parts }, (share) => underWay.set(id, share)).then(
		(bytes) => end({ state: 'ready', bytes, madeAt: Date.now() }),
		(error: Error) => end({ state: 'failed', why: error.message.slice(0, 300) })
	);
	return { ok: true, id, done };
}

/** The packages of the last weeks, the newest first. */
export async function leavingList(db: Db, user: User): Promise<LeavingView[]> {
	const rows = await db.all<LeavingRow & { by: string }>(
		`SELECT leaving.id, asked_by AS askedBy, asked_at AS askedAt, parts, state, file, bytes, made_at AS madeAt, why, taken_at AS takenAt,
			given_name || ' ' || family_name AS "by" FROM leaving JOIN person ON person.id = asked_by
		ORDER BY leaving.id DESC LIMIT 20`
	);
	const offset = (await db.one<{ n: number }>(`SELECT ${jobOffset} AS n`))!.n;
	return rows.map((row) => ({
		...{ id: row.id, by: row.by, askedAt: row.askedAt + offset, state: row.state },
		parts: JSON.parse(row.parts) as LeavingPart[],
		done: underWay.get(row.id) ?? 0,
		...{ bytes: row.bytes, why: row.why },
		until: row.state === 'ready' || row.state === 'taken' ? untilOf(row) + offset : null,
		mine: row.askedBy === user.personId
	}));
}

/** A link by which its asker takes a package along, in the session it is asked for in; one of before opens nothing any more. */
export async function linkToTake(
	db: Db,
	user: User,
	id: number,
	sessionId: number
): Promise<Said<{ readonly token: string }>> {
	if (!isAllowed(user, 'take-all-along')) return notYours;
	return db.write(async (tx): Promise<Said<{ readonly token: string }>> => {
		const row = await tx.rows(leaving).one({ id });
		if (!row || row.askedBy !== user.personId || row.state !== 'ready')
			return { ok: false, why: 'It was taken already, is not ready, or is somebody else’s.' };
		const token = newToken();
		await tx
			.rows(leaving)
			.change(
				{ id },
				{ tokenHash: hashToken(token), openedIn: sessionId, state: 'taken', takenAt: null }
			);
		await writeDown(tx, { act: 'went-out', by: user, after: { what: 'everything' } });
		return { ok: true, token };
	});
}

/** The file that a link opens, for the session it was made in, until all of it was sent and an hour after; null where it opens none. */
export async function takenFile(
	{ db, dataFolder }: Pick<PackHouse, 'db' | 'dataFolder'>,
	user: User,
	{
		id,
		token,
		sessionId
	}: { readonly id: number; readonly token: string; readonly sessionId: number }
): Promise<{ readonly path: string; readonly bytes: number; readonly tag: string } | null> {
	if (!isAllowed(user, 'take-all-along')) return null;
	const row = await db.rows(leaving).one({ id });
	if (!row || row.state !== 'taken' || row.askedBy !== user.personId) return null;
	if (row.openedIn !== sessionId || !sameSecret(row.tokenHash ?? '', hashToken(token))) return null;
	if (untilOf(row) <= Date.now() || !(await isThere(dataFolder, row))) return null;
	return {
		path: fileOf(dataFolder, row),
		...{ bytes: row.bytes!, tag: `"${row.file!.slice(11, 27)}"` }
	};
}

/** Notes that a package was sent to its last octet: from now on it goes within the hour. */
export const allSent = (db: Db, id: number): Promise<void> =>
	db.run('UPDATE leaving SET taken_at = $at WHERE id = $id AND taken_at IS NULL', {
		id,
		at: Date.now()
	});

/** Deletes a package. */
export async function dropLeaving(
	{ db, dataFolder }: Pick<PackHouse, 'db' | 'dataFolder'>,
	user: User,
	id: number
): Promise<Said> {
	if (!isAllowed(user, 'take-all-along')) return notYours;
	const row = await db.rows(leaving).one({ id });
	if (!row || (row.state !== 'ready' && row.state !== 'taken'))
		return { ok: false, why: 'There is nothing to delete. Load the page again.' };
	await rm(fileOf(dataFolder, row), { force: true });
	await db.rows(leaving).change({ id }, { state: 'gone', tokenHash: null });
	return { ok: true };
}
