import { z } from 'zod';
import { ways, type Way } from '../../../core/roster/way';
import { likenesses, type Likeness } from '../../../core/talk/alike-words';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { groupBy } from '../../../core/group-by';
import { workZone } from '../../access/work-clock';
import { found } from '../../db/search';
import type { Bind, Db, Query } from '../../db/open';
import { awayNote } from './away';
import { dayMs, isAside, isDoubtful, shelfCounts, waits } from './shelf-counts';
import { slipsOf } from './slips';
import type { AlikeLine, RepliesView, Shelf, StaffLetter, TalkHead } from './types';

/** Slips of a page, and heads of dispatches whose answers are all alike. */
const most = 40;
const mostAlikeHeads = 12;
/** So many say the same before they stand as one line. */
const fewestAlike = 3;
const mostLetters = 30;

const idSchema = z.coerce.number().int().positive();

/** What of Replies is looked at, as the address says it; what makes no sense is left out of it. */
export const lookSchema = z.object({
	shelf: z.enum(['waiting', 'aside', 'settled', 'doubtful']).catch('waiting'),
	section: idSchema.nullable().catch(null),
	way: z.enum(ways).nullable().catch(null),
	dispatch: idSchema.nullable().catch(null),
	/** All with one person, however they stand. */
	person: idSchema.nullable().catch(null),
	overDay: z.coerce.boolean().catch(false),
	/** Only those that say this alike. */
	alike: z.enum(likenesses).nullable().catch(null),
	search: z.string().max(200).catch(''),
	from: z.coerce.number().int().min(0).max(1_000_000).catch(0)
});
export type Look = z.infer<typeof lookSchema>;

const inShelf: Readonly<Record<Shelf, string>> = {
	waiting: `conversation.state IN ('waiting', 'aside') AND ${waits}`,
	aside: isAside,
	settled: `conversation.state = 'settled'`,
	doubtful: isDoubtful
};
const order: Readonly<Record<Shelf, string>> = {
	waiting: 'since, conversation.id',
	aside: 'aside_until, conversation.id',
	settled: 'last_at DESC, conversation.id DESC',
	doubtful: 'last_at DESC, conversation.id DESC'
};

/** The conversations that are looked at, as a condition. */
interface Chosen {
	readonly sql: string;
	readonly bind: Bind;
}

function chosen(user: User, look: Look, time: number): Chosen {
	const seen = scope(user).conversations;
	// Whoever searches looks through all of them, however they stand.
	const words = found(look.search, ['answer.id', 'answer_words']);
	const ours = found(look.search, ['dispatch.id', 'dispatch_words']);
	const parts = [
		words && ours
			? `(conversation.id IN (SELECT conversation_id FROM answer WHERE ${words.sql})
				OR conversation.id IN (SELECT conversation_id FROM conversation_copy JOIN delivery ON delivery.id = delivery_id
					JOIN dispatch ON dispatch.id = delivery.dispatch_id WHERE ${ours.sql})
				OR conversation.person_id IN (SELECT id FROM person WHERE ${found(look.search, ['person.id', 'person_words'])!.sql}))`
			: look.person !== null
				? 'conversation.person_id = $person'
				: inShelf[look.shelf],
		seen.sql
	];
	const bind: Bind = { ...seen.bind, ...words?.bind };
	if (!words && look.person !== null) bind.person = look.person;
	else if (!words && (look.shelf === 'waiting' || look.shelf === 'aside')) bind.now = time;
	if (look.section !== null) {
		parts.push('conversation.section_id = $section');
		bind.section = look.section;
	}
	if (look.way !== null) {
		parts.push('conversation.way = $way');
		bind.way = look.way;
	}
	if (look.dispatch !== null) {
		parts.push('conversation.dispatch_id = $dispatch');
		bind.dispatch = look.dispatch;
	}
	if (look.alike !== null) {
		parts.push('conversation.alike = $alike');
		bind.alike = look.alike;
	}
	if (look.overDay && look.shelf === 'waiting') {
		parts.push('since < $dayAgo');
		bind.dayAgo = time - dayMs;
	}
	return { sql: parts.join(' AND '), bind };
}

/** Several of one dispatch that say the same: of what waits, in as few lines as there are things said. */
async function alikeGroups(
	db: Query,
	{ sql, bind }: Chosen
): Promise<{ dispatchId: number; likeness: Likeness; ids: number[]; since: number }[]> {
	const rows = await db.all<{
		dispatchId: number;
		likeness: Likeness;
		ids: string;
		since: number;
	}>(
		`SELECT conversation.dispatch_id AS dispatchId, alike AS likeness, json_group_array(conversation.id) AS ids,
			min(since) AS since
		FROM conversation WHERE ${sql} AND alike IS NOT NULL AND conversation.dispatch_id IS NOT NULL
		GROUP BY conversation.dispatch_id, alike HAVING count(*) >= ${fewestAlike} ORDER BY min(since)`,
		bind
	);
	return rows.map((r) => ({ ...r, ids: JSON.parse(r.ids) as number[] }));
}

/** How some conversations say what they say alike, each way of saying it once. */
async function samplesOf(db: Query, ids: readonly number[]): Promise<string[]> {
	const rows = await db.all<{ text: string }>(
		`SELECT min(text) AS text FROM answer WHERE conversation_id IN (SELECT value FROM json_each($ids))
		GROUP BY lower(trim(text, ' .!')) ORDER BY count(*) DESC LIMIT 4`,
		{ ids: JSON.stringify(ids.slice(0, 200)) }
	);
	return rows.map((r) => r.text);
}

type HeadRow = Pick<
	TalkHead,
	'dispatchId' | 'subject' | 'leftAt' | 'people' | 'answered' | 'waiting'
> & {
	readonly dispatchId: number;
	readonly sender: string;
	readonly senderId: number;
	readonly ways: string;
	readonly kind: string;
	readonly inReach: 0 | 1;
};

/** What is said of the dispatches that are answered. */
async function headRows(
	db: Query,
	user: User,
	ids: readonly number[],
	time: number
): Promise<Map<number, HeadRow>> {
	const { conversations: seen, dispatches: mine } = scope(user);
	const rows = await db.all<HeadRow>(
		`SELECT dispatch.id AS dispatchId, subject, leaves_at AS leftAt, ways, dispatch.kind, sender_id AS senderId,
			given_name || ' ' || family_name AS sender, (${mine.sql}) AS inReach,
			(SELECT count(DISTINCT person_id) FROM delivery WHERE dispatch_id = dispatch.id) AS people,
			(SELECT count(*) FROM conversation WHERE dispatch_id = dispatch.id AND ${seen.sql}) AS answered,
			(SELECT count(*) FROM conversation WHERE dispatch_id = dispatch.id AND ${waits} AND ${seen.sql}) AS waiting
		FROM dispatch JOIN person ON person.id = sender_id WHERE dispatch.id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify(ids), now: time, ...seen.bind, ...mine.bind }
	);
	return new Map(rows.map((r) => [r.dispatchId, r]));
}

interface Found {
	readonly id: number;
	readonly dispatchId: number | null;
	readonly number: string | null;
}

const headKey = ({ dispatchId, number }: Omit<Found, 'id'>): string =>
	dispatchId !== null ? `d${dispatchId}` : number === null ? 'begun' : 'numbers';

/** What has come back from families, under what it answers: what a user may see of it, the oldest that waits first. */
export async function repliesView(
	db: Db,
	user: User,
	look: Look,
	openId: number | null = null
): Promise<RepliesView> {
	const zone = await workZone(db, user);
	const time = Math.round(await now(db));
	const choice = chosen(user, look, time);
	const grouped =
		look.shelf === 'waiting' &&
		look.alike === null &&
		look.person === null &&
		look.search.trim() === ''
			? await alikeGroups(db, choice)
			: [];
	const inGroups = JSON.stringify(grouped.flatMap((g) => g.ids));
	const rows = await db.all<Found>(
		`SELECT conversation.id, conversation.dispatch_id AS dispatchId, number FROM conversation
		WHERE ${choice.sql} ${grouped.length > 0 ? 'AND conversation.id NOT IN (SELECT value FROM json_each($inGroups))' : ''}
		ORDER BY ${order[look.shelf]} LIMIT ${most + 1} OFFSET $from`,
		{ ...choice.bind, from: look.from, ...(grouped.length > 0 ? { inGroups } : {}) }
	);
	const page = rows.slice(0, most);
	// What stands open stays in its place, also once it is answered.
	if (openId !== null && !page.some((r) => r.id === openId)) {
		const seen = scope(user).conversations;
		page.push(
			...(await db.all<Found>(
				`SELECT conversation.id, conversation.dispatch_id AS dispatchId, number FROM conversation
				WHERE conversation.id = $openId AND ${seen.sql}`,
				{ openId, ...seen.bind }
			))
		);
	}
	const slips = await slipsOf(
		db,
		page.map((r) => r.id)
	);
	const alikeOf = groupBy(look.from === 0 ? grouped : [], (g) => `d${g.dispatchId}`);
	const byHead = groupBy(page, headKey);
	// A dispatch whose answers are all alike has a head as well, behind those that somebody has to read.
	const keys = [...new Set([...byHead.keys(), ...[...alikeOf.keys()].slice(0, mostAlikeHeads)])];
	const heads = await headRows(
		db,
		user,
		keys.filter((k) => k.startsWith('d')).map((k) => Number(k.slice(1))),
		time
	);
	const made: TalkHead[] = [];
	for (const key of keys) {
		const own = (byHead.get(key) ?? []).flatMap((r) => slips.get(r.id) ?? []);
		const alike: AlikeLine[] = [];
		for (const { likeness, ids } of alikeOf.get(key) ?? [])
			alike.push({ likeness, ids, samples: await samplesOf(db, ids) });
		const head = key.startsWith('d') ? heads.get(Number(key.slice(1))) : undefined;
		made.push(
			head
				? {
						...{ key, kind: 'dispatch', dispatchId: head.dispatchId, subject: head.subject },
						sender: head.senderId === user.personId ? null : head.sender,
						ways: JSON.parse(head.ways) as Way[],
						announcement: head.kind === 'announcement',
						inReach: head.inReach === 1,
						...{ leftAt: head.leftAt, people: head.people, answered: head.answered },
						...{ waiting: head.waiting, slips: own, alike }
					}
				: {
						...{ key, kind: key === 'begun' ? 'begun' : 'numbers', dispatchId: null, subject: '' },
						...{
							sender: null,
							ways: [],
							announcement: false,
							inReach: false,
							leftAt: null,
							people: 0
						},
						...{ answered: own.length, waiting: own.length, slips: own, alike: [] }
					}
		);
	}
	return {
		...{ zone, now: time, shelf: look.shelf, heads: made },
		counts: await shelfCounts(db, user, time),
		away: await awayNote(db, user, time),
		next: rows.length > most ? look.from + most : null,
		letters: await db.all<StaffLetter>(
			`SELECT id, subject, html, made_at AS at, dispatch_id AS dispatchId FROM notice
			WHERE person_id = $me AND kind NOT IN ('answer', 'forward') ORDER BY id DESC LIMIT ${mostLetters}`,
			{ me: user.personId }
		)
	};
}
