import { access, constants, readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import { isAllowed } from '../../access/may';
import { writeDown } from '../../access/log';
import type { User } from '../../access/user';
import { rosterSource } from '../../db/models/rosters';
import type { Db, Query } from '../../db/open';
import type { Said } from '../../said';
import { nightSource } from './nightly';
import { nightFiles } from './views';
import type { WatchedView } from './types';

/** Files that are listed. */
const most = 20;

/** What lies in a folder, the newest first; or why it cannot be looked into, in words. */
async function contentsOf(folder: string): Promise<Pick<WatchedView, 'trouble' | 'lies'>> {
	try {
		await access(folder, constants.R_OK | constants.X_OK);
		const entries = (await readdir(folder, { withFileTypes: true })).filter((e) => e.isFile());
		const lies = await Promise.all(
			entries.slice(0, 1000).map(async ({ name }) => {
				const { size, mtimeMs } = await stat(join(folder, name));
				return { name, bytes: size, changedAt: Math.round(mtimeMs) };
			})
		);
		return { trouble: '', lies: lies.sort((a, b) => b.changedAt - a.changedAt).slice(0, most) };
	} catch (error) {
		const { code } = error as NodeJS.ErrnoException;
		const trouble =
			code === 'ENOENT'
				? 'There is no such folder. Make it, or set another.'
				: code === 'ENOTDIR'
					? 'That is a file, and no folder.'
					: code === 'EACCES' || code === 'EPERM'
						? 'The courier may not read it. Give its account the right to.'
						: 'It cannot be read just now.';
		return { trouble, lies: [] };
	}
}

/** The folder that is watched for rosters: what lies in it, and what came of what lay there. `folder` is the machine's to say; null where none is watched. */
export async function watchedView(db: Query, folder: string | null): Promise<WatchedView> {
	const source = await nightSource(db);
	return {
		folder,
		...(folder === null ? { trouble: '', lies: [] } : await contentsOf(folder)),
		source: source?.name ?? null,
		mostPercent: Math.round((source?.mostShare ?? 0.1) * 100),
		came: await nightFiles(db)
	};
}

export const mostPercentSchema = z.object({
	percent: z
		.string()
		.trim()
		.regex(/^\d{1,3}$/, 'The share is a whole number of percent, from 0 to 100.')
		.transform(Number)
		.refine((percent) => percent <= 100, 'The share is 100 percent at most.')
});

/** Sets the share of students, sections or enrolments that may change while a roster comes in by itself, or without being typed. */
export async function setMostPercent(db: Db, user: User, percent: number): Promise<Said> {
	if (!isAllowed(user, 'settings'))
		return { ok: false, why: 'This is not yours to change. Nothing was changed.' };
	return db.write(async (tx): Promise<Said> => {
		const source = await nightSource(tx);
		if (!source) return { ok: false, why: 'Bring a roster by hand first: it names its source.' };
		await tx.rows(rosterSource).change({ id: source.id }, { mostShare: percent / 100 });
		await writeDown(tx, {
			...{ act: 'setting-changed', by: user },
			before: { percent: Math.round(source.mostShare * 100) },
			after: { chapter: 'watched-folder', percent }
		});
		return { ok: true };
	});
}
