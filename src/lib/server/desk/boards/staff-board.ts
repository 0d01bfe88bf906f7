import { boardKey, placeOfKey, type BoardPlace } from '../../../core/audience/board-place';
import { may, scope } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { readDistrict } from '../../db/district';
import type { Query } from '../../db/open';
import { linkOfPlace } from './links';
import { boardOfPlace } from './open-board';
import {
	isOpenPlace,
	lineOfPlace,
	named,
	placeSeen,
	placesSeen,
	readersOf,
	writesTo
} from './places';
import { placesOfRow, postsOn } from './posts';
import type { BoardLine, PostFacts, StaffBoard } from './types';

/** A board as somebody sees it who works here, by its key; null where there is none of theirs. */
export async function staffBoard(
	db: Query,
	key: Buffer,
	user: User,
	boardOf: string,
	asked: number | null
): Promise<StaffBoard | null> {
	const at = placeOfKey(boardOf);
	const place = at && (await placeSeen(db, user, at));
	if (!place) return null;
	const { language } = await readDistrict(db);
	const board = await boardOfPlace(db, place, {
		...{ language, base: `/people/boards/${boardOf}`, open: false, asked }
	});
	const time = await now(db);
	const coming = (await postsOn(db, [place], time)).filter((p) => p.from > time);
	const standing = new Set(
		[...board.pinned, ...board.front, ...board.earlier].map((p) => p.dispatchId)
	);
	const facts = await factsOf(db, user, [...standing, ...coming.map((p) => p.id)]);
	const link = await linkOfPlace(db, key, place);
	const allowed = await isOpenPlace(db, place);
	return {
		board,
		posts: facts.filter((f) => standing.has(f.dispatchId)),
		coming: coming.reverse().map((p) => ({
			...{ dispatchId: p.id, subject: p.subject, from: p.from },
			seen: facts.some((f) => f.dispatchId === p.id && f.seen)
		})),
		readers: await readersOf(db, place),
		open: {
			...{
				allowed,
				mayMake: writesTo(user, place),
				maySet: may(user, 'settings'),
				path: allowed ? (link?.path ?? null) : null
			},
			...{ madeAt: link?.madeAt ?? null, madeBy: link?.madeBy ?? null }
		},
		followers: await followersOf(db, place)
	};
}

/** What only staff see of some announcements. */
async function factsOf(db: Query, user: User, ids: readonly number[]): Promise<PostFacts[]> {
	const seen = scope(user).dispatches;
	const rows = await db.all<{
		id: number;
		senderId: number;
		readers: number;
		seen: number;
	}>(
		`SELECT id, sender_id AS senderId, (${seen.sql}) AS seen,
			(SELECT count(*) FROM board_read WHERE dispatch_id = dispatch.id) AS readers
		FROM dispatch WHERE id IN (SELECT value FROM json_each($ids))`,
		{
			ids: JSON.stringify(ids),
			...seen.bind
		}
	);
	return rows.map(({ id, senderId, readers, seen: sees }) => ({
		...{ dispatchId: id, readers, seen: sees === 1 },
		mine: may(user, 'handle', senderId)
	}));
}

const followersOf = async (db: Query, { kind, id }: BoardPlace): Promise<number> =>
	(await db.one<{ n: number }>(
		`SELECT count(*) AS n FROM board_link WHERE kind = $kind AND place_id = $id AND person_id IS NOT NULL AND ended_at IS NULL`,
		{ kind, id }
	))!.n;

/** The boards of the district and of every school that somebody works at or sees, with how many announcements stand there now. */
export async function wideBoards(
	db: Query,
	user: User
): Promise<(BoardLine & { readonly standing: number })[]> {
	const schools = await db.all<{ id: number }>('SELECT id FROM school ORDER BY name');
	const places: BoardPlace[] = [
		{ kind: 'district', id: 0 },
		...schools.map(({ id }) => ({ kind: 'school' as const, id }))
	];
	const all = await named(db, places);
	const keys = await placesSeen(db, user, all);
	const seen = all.filter((place) => keys.has(boardKey(place)));
	const time = await now(db);
	const posts = (await postsOn(db, seen, time)).filter((p) => p.from <= time);
	return seen.map((place) => {
		const line = lineOfPlace(place);
		return { ...line, standing: posts.filter((p) => placesOfRow(p).includes(line.key)).length };
	});
}
