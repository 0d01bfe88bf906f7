import { boardKey } from '../../../core/audience/board-place';
import { boardPhrases } from '../../../core/copy/board-phrases';
import { fillPhrase } from '../../../core/copy/phrases';
import { writeAtom } from '../../../core/format/atom';
import { now } from '../../clock';
import { readDistrict } from '../../db/district';
import type { Query } from '../../db/open';
import { peopleVersion } from '../../db/roster';
import { familyBoards } from './family-boards';
import { boardOfPlace } from './open-board';
import type { NamedPlace } from './places';
import { lastLeft, postsOn } from './posts';
import type { BoardView, Post } from './types';

/** A feed as it is asked for again and again: written only where it has changed. */
export interface FeedOut {
	/** What it rests on: the same mark means the same feed. */
	readonly mark: string;
	/** When it was last changed (instant, ms). */
	readonly changedAt: number;
	readonly write: () => Promise<string>;
}

/** For whom a feed is: anybody, or one person, as whom it is written. */
export interface FeedReader {
	readonly personId: number | null;
	readonly language: string;
	/** The address of this site, and the path of the link that is asked by. */
	readonly site: string;
	readonly path: string;
	/** What the feed itself is asked by, below it. */
	readonly feed: string;
	/** When the link was made (instant, ms): before that nothing has changed for it. */
	readonly madeAt: number;
}

/** What a feed has of each, the newest first: front and earlier alike, so many at most. */
const most = 50;

/** What stands on a board, as a feed (RFC 4287). */
export async function boardFeed(
	db: Query,
	place: NamedPlace,
	reader: FeedReader
): Promise<FeedOut> {
	const time = await now(db);
	const standing = (await postsOn(db, [place], time)).filter((p) => p.from <= time).slice(0, most);
	const { name } = await readDistrict(db);
	const left = await lastLeft(db, [place], time);
	const changedAt = standing.reduce(
		(latest, p) => Math.max(latest, p.from, p.changedAt ?? 0),
		Math.max(left ?? 0, reader.madeAt)
	);
	return {
		mark: JSON.stringify([
			...[place.name, name, reader, await peopleVersion(db)],
			standing.map((p) => [p.id, p.from, p.changedAt, p.until])
		]),
		changedAt,
		write: async () =>
			atomOf(await written(db, place, reader), place, reader, {
				changedAt,
				author: name,
				keys: await keysOf(
					db,
					standing.map((p) => p.id)
				)
			})
	};
}

/** The keys of dispatches, which never change. */
async function keysOf(db: Query, ids: readonly number[]): Promise<ReadonlyMap<number, string>> {
	const rows = await db.all<{ id: number; sheetKey: string }>(
		'SELECT id, sheet_key AS sheetKey FROM dispatch WHERE id IN (SELECT value FROM json_each($ids))',
		{ ids: JSON.stringify(ids) }
	);
	return new Map(rows.map((r) => [r.id, r.sheetKey]));
}

async function written(
	db: Query,
	place: NamedPlace,
	{ personId, language, site, path }: FeedReader
): Promise<BoardView> {
	const base = site + path;
	if (personId === null)
		return boardOfPlace(db, place, { language, base, open: true, asked: 'all' });
	const { boards } = await familyBoards(db, personId, base, {
		...{ termId: null, asked: 'all' as const },
		only: boardKey(place)
	});
	return boards[0]!;
}

function atomOf(
	board: BoardView,
	place: NamedPlace,
	{ personId, language, site, path, feed }: FeedReader,
	{
		changedAt,
		author,
		keys
	}: {
		readonly changedAt: number;
		readonly author: string;
		readonly keys: ReadonlyMap<number, string>;
	}
): string {
	const words = boardPhrases(language);
	// Somebody’s own address opens no page: they have one by their letters.
	const page = (post?: Post) =>
		personId === null ? `${site}${path}${post ? `?post=${post.dispatchId}` : ''}` : `${site}/in`;
	const posts = [...board.pinned, ...board.front, ...board.earlier]
		.sort((a, b) => b.from - a.from || b.dispatchId - a.dispatchId)
		.slice(0, most);
	return writeAtom({
		// RFC 4151: this site names its boards.
		id: `tag:${new URL(site).hostname},2026:board/${boardKey(place)}`,
		title: fillPhrase(words.boardOf, { name: board.name }),
		subtitle: author,
		...{ language, author, updated: changedAt },
		...{ self: `${site}${path}/${feed}`, link: page() },
		entries: posts.map((p) => ({
			id: `urn:uuid:${keys.get(p.dispatchId)}`,
			...{ title: p.subject, html: p.html, language: p.language, link: page(p) },
			...{ published: p.from, updated: p.changedAt ?? p.from },
			files: p.files.map((f) => ({ href: `${site}${path}/file/${f.id}`, words: f.words }))
		}))
	});
}
