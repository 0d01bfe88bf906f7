import type { Way } from '../../../core/roster/way';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import type { Query } from '../../db/open';
import type { ShelfCounts } from './types';

/** Waits for somebody, in SQL: what was put aside does so again once its time has come. */
export const waits = `(conversation.state = 'waiting' OR (conversation.state = 'aside' AND aside_until <= $now))`;
/** Is put aside still. */
export const isAside = `(conversation.state = 'aside' AND aside_until > $now)`;

/** A conversation in which only a machine may have written since it was last looked at. */
export const isDoubtful = `(conversation.id IN (SELECT conversation_id FROM answer WHERE doubt IS NOT NULL)
	AND conversation.state = 'settled' AND conversation.unread)`;

export const dayMs = 86_400_000;

/** Settled conversations are counted up to here: nobody asks for more, and a year's are many. */
const mostSettled = 1_000;

/** So many sections are named beside the conversations: those in which most wait. */
const mostSections = 12;

/** How many conversations a user has to answer, for the tab; or how many wait in the whole district, for whoever watches. */
export async function waitingCount(db: Query, user: User | null, now: number): Promise<number> {
	const seen = user === null ? { sql: '1', bind: {} } : scope(user).conversations;
	return (await db.one<{ n: number }>(
		`SELECT count(*) AS n FROM conversation WHERE conversation.state IN ('waiting', 'aside') AND ${waits} AND ${seen.sql}`,
		{ now, ...seen.bind }
	))!.n;
}

/** What waits for a user in Week. */
export async function waitingReplies(
	db: Query,
	user: User,
	now: number
): Promise<Pick<ShelfCounts, 'waiting' | 'overDay' | 'oldest'>> {
	const seen = scope(user).conversations;
	return (await db.one<Pick<ShelfCounts, 'waiting' | 'overDay' | 'oldest'>>(
		`SELECT count(*) AS waiting, coalesce(sum(since < $now - ${dayMs}), 0) AS overDay, min(since) AS oldest
		FROM conversation WHERE conversation.state IN ('waiting', 'aside') AND ${waits} AND ${seen.sql}`,
		{ now, ...seen.bind }
	))!;
}

/** How many people have answered a dispatch, and how many of them wait. */
export async function talksAbout(
	db: Query,
	user: User,
	dispatchId: number,
	now: number
): Promise<{ readonly answered: number; readonly waiting: number }> {
	const seen = scope(user).conversations;
	return (await db.one<{ answered: number; waiting: number }>(
		`SELECT count(*) AS answered, coalesce(sum(${waits}), 0) AS waiting FROM conversation
		WHERE dispatch_id = $dispatchId AND ${seen.sql}`,
		{ dispatchId, now, ...seen.bind }
	))!;
}

/** How many conversations stand how, of those a user may see. */
export async function shelfCounts(db: Query, user: User, now: number): Promise<ShelfCounts> {
	const seen = scope(user).conversations;
	const bind = { now, ...seen.bind };
	// Looked through once: of a district that has fallen behind they are many.
	const parts = await db.all<{
		sectionId: number | null;
		way: Way;
		waiting: number;
		overDay: number;
		oldest: number | null;
		unread: number;
		aside: number;
		asideNext: number | null;
	}>(
		`SELECT section_id AS sectionId, way, coalesce(sum(${waits}), 0) AS waiting,
			coalesce(sum(${waits} AND since < $now - ${dayMs}), 0) AS overDay,
			min(CASE WHEN ${waits} THEN since END) AS oldest,
			coalesce(sum(${waits} AND unread), 0) AS unread,
			coalesce(sum(${isAside}), 0) AS aside,
			min(CASE WHEN ${isAside} THEN aside_until END) AS asideNext
		FROM conversation WHERE conversation.state IN ('waiting', 'aside') AND ${seen.sql} GROUP BY section_id, way`,
		bind
	);
	const sum = (of: 'waiting' | 'overDay' | 'unread' | 'aside') =>
		parts.reduce((n, part) => n + part[of], 0);
	const first = (of: 'oldest' | 'asideNext') =>
		parts.reduce<number | null>((least, { [of]: at }) => {
			return at === null || (least !== null && least <= at) ? least : at;
		}, null);
	const bySection = new Map<number, number>();
	const ways: Record<Way, number> = { email: 0, text: 0, inbox: 0 };
	for (const { sectionId, way, waiting } of parts) {
		ways[way] += waiting;
		if (sectionId !== null && waiting > 0)
			bySection.set(sectionId, (bySection.get(sectionId) ?? 0) + waiting);
	}
	const rest = (await db.one<{ settled: number; doubtful: number }>(
		`SELECT (SELECT count(*) FROM (SELECT 1 FROM conversation WHERE conversation.state = 'settled' AND ${seen.sql}
				LIMIT ${mostSettled + 1})) AS settled,
			(SELECT count(*) FROM conversation WHERE ${isDoubtful} AND ${seen.sql}) AS doubtful`,
		seen.bind
	))!;
	return {
		...{ waiting: sum('waiting'), overDay: sum('overDay'), oldest: first('oldest') },
		...{ unread: sum('unread'), aside: sum('aside'), asideNext: first('asideNext') },
		doubtful: rest.doubtful,
		settled: Math.min(rest.settled, mostSettled),
		moreSettled: rest.settled > mostSettled,
		sections: await mostIn(db, bySection),
		moreSections: Math.max(0, bySection.size - mostSections),
		ways
	};
}

/** The sections in which most wait, by name. */
async function mostIn(
	db: Query,
	bySection: ReadonlyMap<number, number>
): Promise<ShelfCounts['sections']> {
	if (bySection.size === 0) return [];
	const named = await db.all<{ id: number; name: string }>(
		'SELECT id, name FROM section WHERE id IN (SELECT value FROM json_each($ids)) ORDER BY name',
		{ ids: JSON.stringify([...bySection.keys()]) }
	);
	return named
		.map(({ id, name }) => ({ id, name, n: bySection.get(id)! }))
		.sort((a, b) => b.n - a.n)
		.slice(0, mostSections);
}
