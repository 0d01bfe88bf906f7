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
export const isDoubtful = `(conversation.state = 'settled' AND conversation.unread AND EXISTS (SELECT 1 FROM answer
	WHERE conversation_id = conversation.id AND doubt IS NOT NULL))`;

export const dayMs = 86_400_000;

/** So many sections are named beside the conversations: those in which most wait. */
const mostSections = 12;

/** How many conversations a user has to answer; for the tab, and for Week. */
export async function waitingCount(db: Query, user: User, now: number): Promise<number> {
	const seen = scope(user).conversations;
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
	const open = `conversation.state IN ('waiting', 'aside') AND ${seen.sql}`;
	const sums = (await db.one<
		Omit<ShelfCounts, 'sections' | 'moreSections' | 'ways' | 'settled' | 'doubtful'>
	>(
		`SELECT coalesce(sum(${waits}), 0) AS waiting,
			coalesce(sum(${waits} AND since < $now - ${dayMs}), 0) AS overDay,
			min(CASE WHEN ${waits} THEN since END) AS oldest,
			coalesce(sum(${waits} AND unread), 0) AS unread,
			coalesce(sum(${isAside}), 0) AS aside,
			min(CASE WHEN ${isAside} THEN aside_until END) AS asideNext
		FROM conversation WHERE ${open}`,
		bind
	))!;
	const sections = await db.all<{ id: number; name: string; n: number; sections: number }>(
		`SELECT section.id, section.name, count(*) AS n, count(*) OVER () AS sections FROM conversation JOIN section ON section.id = section_id
		WHERE ${open} AND ${waits} GROUP BY section.id ORDER BY n DESC, section.name LIMIT ${mostSections}`,
		bind
	);
	const ways = await db.all<{ way: Way; n: number }>(
		`SELECT way, count(*) AS n FROM conversation WHERE ${open} AND ${waits} GROUP BY way`,
		bind
	);
	const rest = (await db.one<{ settled: number; doubtful: number }>(
		`SELECT (SELECT count(*) FROM conversation WHERE conversation.state = 'settled' AND ${seen.sql}) AS settled,
			(SELECT count(*) FROM conversation WHERE ${isDoubtful} AND ${seen.sql}) AS doubtful`,
		seen.bind
	))!;
	return {
		...sums,
		...rest,
		sections: sections.map(({ id, name, n }) => ({ id, name, n })),
		moreSections: Math.max(0, (sections[0]?.sections ?? 0) - mostSections),
		ways: { email: 0, text: 0, inbox: 0, ...Object.fromEntries(ways.map((w) => [w.way, w.n])) }
	};
}
