import { boardLinkToken, hashToken, newNonces } from '../../access/tokens';
import { writeDown } from '../../access/log';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { districtDay } from '../../db/district';
import { boardLink } from '../../db/models/board';
import type { Db, Query } from '../../db/open';
import { boardKey, type BoardPlace } from '../../../core/audience/board-place';
import { isOpenPlace, named, placesOfPerson, placeSeen, writesTo, type NamedPlace } from './places';
import type { Changed } from './types';

/** A link to one board that opens it: for anybody, or one person's own. */
export type BoardOpened =
	| {
			readonly ok: true;
			readonly place: NamedPlace;
			readonly personId: number | null;
			/** Instant, ms. */
			readonly madeAt: number;
	  }
	| { readonly ok: false; readonly why: 'unknown' | 'ended' };

/** Looks the token of a link to a board up. One for anybody opens nothing any more where its place allows none; somebody's own opens nothing once they do not belong there. */
export async function openBoardLink(db: Query, token: string): Promise<BoardOpened> {
	const row = await db.rows(boardLink).one({ tokenHash: hashToken(token) });
	if (!row) return { ok: false, why: 'unknown' };
	const at = { kind: row.kind, id: row.placeId };
	const [place] = row.endedAt === null ? await named(db, [at]) : [];
	if (!place || !(await stillOpens(db, place, row.personId))) return { ok: false, why: 'ended' };
	return { ok: true, place, personId: row.personId, madeAt: row.madeAt };
}

const stillOpens = async (db: Query, place: NamedPlace, personId: number | null) =>
	personId === null
		? isOpenPlace(db, place)
		: (await placesOfPerson(db, personId, await districtDay(db))).some(
				(p) => boardKey(p) === boardKey(place)
			);

/** The link for anybody that a place has now, with its path; null where it has none. */
export async function linkOfPlace(
	db: Query,
	key: Buffer,
	{ kind, id }: BoardPlace
): Promise<{ path: string; madeAt: number; madeBy: string } | null> {
	const row = await db.one<{ nonce: string; madeAt: number; madeBy: string }>(
		`SELECT nonce, made_at AS madeAt, given_name || ' ' || family_name AS madeBy FROM board_link
		JOIN person ON person.id = made_by
		WHERE board_link.kind = $kind AND place_id = $id AND person_id IS NULL AND ended_at IS NULL ORDER BY board_link.id DESC LIMIT 1`,
		{ kind, id }
	);
	if (!row) return null;
	const { nonce, ...made } = row;
	return { ...made, path: `/b/${boardLinkToken(key, nonce)}` };
}

/** Puts a new link down; returns its token. */
async function putLink(
	tx: Query,
	key: Buffer,
	{ kind, id }: BoardPlace,
	{ personId, madeBy }: { readonly personId: number | null; readonly madeBy: number }
): Promise<string> {
	const nonce = newNonces(1)[0]!;
	const token = boardLinkToken(key, nonce);
	await tx.rows(boardLink).add({
		...{ kind, placeId: id, personId, nonce, madeBy },
		...{ tokenHash: hashToken(token), madeAt: Math.round(await now(tx)) }
	});
	return token;
}

/** Makes a link for anybody to a board, in the place of the one it had; or ends it, with `open` false. */
export async function setOpenLink(
	db: Db,
	key: Buffer,
	user: User,
	place: BoardPlace,
	open: boolean
): Promise<Changed> {
	return db.write(async (tx): Promise<Changed> => {
		const seen = await placeSeen(tx, user, place);
		if (!seen || !writesTo(user, seen))
			return { ok: false, why: 'This board is not among those you may open.' };
		if (open && !(await isOpenPlace(tx, seen)))
			return {
				ok: false,
				why: 'This school keeps its boards for its families. Whoever looks after the settings can change that.'
			};
		await tx.run(
			`UPDATE board_link SET ended_at = $time, ended_by = $by
			WHERE kind = $kind AND place_id = $id AND person_id IS NULL AND ended_at IS NULL`,
			{
				...{ time: Math.round(await now(tx)), by: user.personId },
				...{ kind: place.kind, id: place.id }
			}
		);
		if (open) await putLink(tx, key, place, { personId: null, madeBy: user.personId });
		await writeDown(tx, {
			...{ act: 'board-opened', by: user, schoolId: seen.schoolId },
			...(place.kind === 'section' || place.kind === 'group'
				? { to: [place.kind, place.id] as const }
				: {}),
			after: { open, ...(place.kind === 'school' ? { school: place.id } : {}) }
		});
		return { ok: true };
	});
}

/** The own addresses by which a person follows boards, by the boards' keys; paths. */
export async function followedBy(
	db: Query,
	key: Buffer,
	personId: number
): Promise<ReadonlyMap<string, string>> {
	const rows = await db.all<BoardPlace & { nonce: string }>(
		`SELECT kind, place_id AS id, nonce FROM board_link WHERE person_id = $personId AND ended_at IS NULL ORDER BY id`,
		{ personId }
	);
	return new Map(rows.map((r) => [boardKey(r), `/b/${boardLinkToken(key, r.nonce)}`]));
}

/** Gives a person an address of their own by which a program follows a board, or ends it; false where the board is none of theirs. */
export async function setFollowing(
	db: Db,
	key: Buffer,
	personId: number,
	place: BoardPlace,
	follows: boolean
): Promise<boolean> {
	return db.write(async (tx) => {
		const mine = await placesOfPerson(tx, personId, await districtDay(tx));
		if (follows && !mine.some((p) => boardKey(p) === boardKey(place))) return false;
		const before = await tx.one(
			`SELECT 1 FROM board_link WHERE kind = $kind AND place_id = $id AND person_id = $personId AND ended_at IS NULL`,
			{ kind: place.kind, id: place.id, personId }
		);
		if (follows && !before) await putLink(tx, key, place, { personId, madeBy: personId });
		if (!follows)
			await tx.run(
				`UPDATE board_link SET ended_at = $time, ended_by = $personId
				WHERE kind = $kind AND place_id = $id AND person_id = $personId AND ended_at IS NULL`,
				{ time: Math.round(await now(tx)), kind: place.kind, id: place.id, personId }
			);
		return true;
	});
}
