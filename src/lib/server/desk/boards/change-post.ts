import { letterChecks } from '../../../core/plan/check-letter';
import { nameOfLanguage } from '../../../core/copy/language';
import { letterWords, wordingSchema, type Wording } from '../../../core/copy/words';
import { isAllowed } from '../../access/may';
import { writeDown } from '../../access/log';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { boardWording } from '../../db/models/board';
import { dispatch, type DispatchRow } from '../../db/models/dispatch';
import type { Db, Query } from '../../db/open';
import { filesOfSheet, usableFiles } from '../sheet/files';
import { boardSchema, letterSchema, type Board } from '../sheet/sheet';
import type { Changed } from './types';

const notThere: Changed = {
	ok: false,
	why: 'There is no such announcement of yours on a board. Load the page again.'
};

type Standing = Pick<DispatchRow, 'id' | 'schoolId' | 'senderId'> & {
	readonly board: Board;
	readonly wording: string;
	readonly letter: string;
};

/** An announcement that stands or will stand on boards, for whoever may change it; null for anybody else. */
async function standingPost(db: Query, user: User, id: number): Promise<Standing | null> {
	const row = await db
		.rows(dispatch)
		.one({ id }, [
			...(['id', 'kind', 'state', 'schoolId', 'senderId', 'board', 'wording', 'letter'] as const)
		]);
	if (row?.kind !== 'announcement' || row.state === 'draft') return null;
	const placed = await db.one('SELECT 1 FROM board_place WHERE dispatch_id = $id', { id });
	if (!placed || !isAllowed(user, 'handle', row.senderId)) return null;
	return { ...row, board: boardSchema.parse(JSON.parse(row.board)) };
}

const putBoard = (tx: Query, id: number, board: Board): Promise<unknown> =>
	tx.rows(dispatch).change({ id }, { board: JSON.stringify(board) });

/** Pins an announcement on its boards, or lets it go its way again. */
export async function pin(db: Db, user: User, id: number, pinned: boolean): Promise<Changed> {
	return db.write(async (tx): Promise<Changed> => {
		const post = await standingPost(tx, user, id);
		if (!post) return notThere;
		if (post.board.pinned === pinned) return { ok: true };
		await putBoard(tx, id, { ...post.board, pinned });
		await writeDown(tx, {
			...{ act: 'board-pinned', by: user, to: ['dispatch', id], schoolId: post.schoolId },
			after: { pinned }
		});
		return { ok: true };
	});
}

/** Takes an announcement off its boards: it stays in the log, and in the inboxes that it went to. */
export async function takeOff(db: Db, user: User, id: number): Promise<Changed> {
	return db.write(async (tx): Promise<Changed> => {
		const post = await standingPost(tx, user, id);
		if (!post) return notThere;
		const time = Math.round(await now(tx));
		if (post.board.until !== null && post.board.until <= time) return { ok: true };
		await putBoard(tx, id, { ...post.board, until: time });
		await writeDown(tx, {
			...{ act: 'board-taken-off', by: user, to: ['dispatch', id], schoolId: post.schoolId }
		});
		return { ok: true };
	});
}

/** What boards say of an announcement now, for whoever may change it. */
export async function wordingOnBoards(
	db: Query,
	user: User,
	id: number
): Promise<{ readonly wording: Wording; readonly base: number } | null> {
	const post = await standingPost(db, user, id);
	if (!post) return null;
	const newest = await newestOf(db, id);
	return {
		wording: wordingSchema.parse(JSON.parse(newest?.wording ?? post.wording)),
		base: newest?.id ?? 0
	};
}

const newestOf = (db: Query, id: number) =>
	db.one<{ id: number; wording: string }>(
		'SELECT id, wording FROM board_wording WHERE dispatch_id = $id ORDER BY id DESC LIMIT 1',
		{ id }
	);

/** What is wrong with words for a page, in each language that is not switched off. */
const wordsChecks = ({ language, words, variants }: Wording) =>
	[
		{ words, language },
		...variants.filter((v) => !v.off).map((v) => ({ words: v.words, language: v.language }))
	].flatMap((of) =>
		letterChecks({
			letter: letterWords(of.words, 'inbox'),
			which: of.language === language ? '' : ` in ${nameOfLanguage(of.language)}`
		})
	);

/**
 * Puts other words on the boards. Copies stay as they left; what it said before stays readable. `base` is the
 * version that was changed: where somebody else has changed it since, nothing is written over.
 */
export async function changeWording(
	db: Db,
	user: User,
	id: number,
	wording: Wording,
	base: number
): Promise<Changed> {
	return db.write(async (tx): Promise<Changed> => {
		const post = await standingPost(tx, user, id);
		if (!post) return notThere;
		const newest = await newestOf(tx, id);
		if ((newest?.id ?? 0) !== base)
			return {
				ok: false,
				why: 'Somebody else has changed it meanwhile. Copy what you wrote, load the page again, and put it in.'
			};
		const wrong = wordsChecks(wording).find((c) => c.level === 'block');
		if (wrong) return { ok: false, why: wrong.text };
		const files = filesOfSheet({ wording, letter: letterSchema.parse({}) });
		const mine = await usableFiles(tx, user, files);
		const known = await tx.all<{ id: number }>(
			'SELECT file_id AS id FROM dispatch_file WHERE dispatch_id = $id',
			{ id }
		);
		const usable = new Set([...mine.map((f) => f.id), ...known.map((f) => f.id)]);
		if (files.some((f) => !usable.has(f)))
			return {
				ok: false,
				why: 'A picture is no longer there, or not yours. Take it out and put it in again.'
			};
		await tx.run(
			`INSERT OR IGNORE INTO dispatch_file (dispatch_id, file_id) SELECT $id, value FROM json_each($files)`,
			{ id, files: JSON.stringify(files) }
		);
		await tx.rows(boardWording).add({
			...{ dispatchId: id, wording: JSON.stringify(wording) },
			...{ at: Math.round(await now(tx)), byId: user.personId }
		});
		await writeDown(tx, {
			...{ act: 'board-changed', by: user, to: ['dispatch', id], schoolId: post.schoolId }
		});
		return { ok: true };
	});
}
