import { randomUUID } from 'node:crypto';
import { parse } from 'chrono-node';
import { DateTime } from 'luxon';
import { z } from 'zod';
import { tellDays } from '../../../core/track/expect/past-copy';
import { may, scope } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { workZone } from '../../access/work-clock';
import type { Db } from '../../db/open';
import { found } from '../../db/search';
import { linesOf } from './dispatch-lines';
import {
	putDispatch,
	sheetColumns,
	sheetOfRow,
	sheetValues,
	type SheetRow
} from '../sheet/sheet-row';
import { type DispatchList, listStates, type ListState } from './types';

export const listFilterSchema = z.object({
	search: z.string().max(200).catch('').default(''),
	state: z.enum(listStates).catch('all').default('all'),
	page: z.coerce.number().int().min(1).catch(1).default(1),
	/** The repetition whose dates are all shown; the others are one line each. */
	round: z.coerce.number().int().positive().nullable().catch(null).default(null)
});
export type ListFilter = z.infer<typeof listFilterSchema>;
const perPage = 50;

/** The day that a search names ("march 9", "2027-03-09"), as an interval of instants; null where it names none. */
function dayIn(
	search: string,
	time: number,
	zone: string
): { from: number; to: number; date: string } | null {
	const here = DateTime.fromMillis(time, { zone });
	const [found] = parse(search, { instant: new Date(time), timezone: here.offset });
	if (!found || found.text.trim().length < search.trim().length) return null;
	const { start } = found;
	if (!start.isCertain('day') && !start.isCertain('weekday')) return null;
	const day = DateTime.fromObject(
		{ year: start.get('year')!, month: start.get('month')!, day: start.get('day')! },
		{ zone }
	);
	return { from: day.toMillis(), to: day.plus({ days: 1 }).toMillis(), date: day.toISODate()! };
}

/** What is over, as `isOver` of the core has it. */
const over = `(state = 'sent' AND sent_at IS NOT NULL AND coalesce(ends_at, sent_at + ${tellDays * 86_400_000}) <= $time)`;

/** What a user may see and a search fits, as `fit`, with the state it is listed by. */
async function fitting(db: Db, user: User, search: string) {
	const zone = await workZone(db, user);
	const time = await now(db);
	const seen = scope(user).dispatches;
	const day = dayIn(search, time, zone);
	const asked = day === null && search.trim() !== '';
	const words = asked
		? found(search, ['dispatch.id', 'dispatch_words'], ['sender_id', 'person_words'])
		: null;
	return {
		day: day?.date ?? null,
		sql: `fit AS (SELECT dispatch.id, coalesce(leaves_at, changed_at) AS at, sender_id, round_id,
				state = 'scheduled' AS ahead, CASE WHEN ${over} THEN 'ended' ELSE state END AS shown
			FROM dispatch WHERE (CASE WHEN state = 'draft' THEN sender_id = $me ELSE ${seen.sql} END)
				${day ? 'AND coalesce(leaves_at, changed_at) >= $from AND coalesce(leaves_at, changed_at) < $to' : ''}
				${words ? `AND ${words.sql}` : asked ? 'AND 0' : ''})`,
		bind: {
			me: user.personId,
			time,
			...(day ? { from: day.from, to: day.to } : {}),
			...words?.bind,
			...seen.bind
		}
	};
}

/** Of a repetition only the first date still ahead has a line, which says how many follow; but of the one that is unfolded all. */
const placed = `placed AS (SELECT *, ahead AND round_id IS NOT NULL AND round_id IS NOT $round AS folded,
		row_number() OVER dates AS place, count(*) OVER dates AS dates, max(at) OVER dates AS last
	FROM fit WHERE $state = 'all' OR shown = $state
	WINDOW dates AS (PARTITION BY round_id, ahead ORDER BY at, id
		ROWS BETWEEN UNBOUNDED PRECEDING AND UNBOUNDED FOLLOWING)),
	line AS (SELECT * FROM placed WHERE NOT folded OR place = 1)`;

/** Every dispatch a user may see, drafts among them: by state, and by every word of the search in subject, words, audience or sender. */
export async function dispatchList(db: Db, user: User, filter: ListFilter): Promise<DispatchList> {
	const { sql, bind, day } = await fitting(db, user, filter.search);
	const counts: Record<ListState, number> = { all: 0, draft: 0, scheduled: 0, sent: 0, ended: 0 };
	for (const { shown, n } of await db.all<{ shown: Exclude<ListState, 'all'>; n: number }>(
		`WITH ${sql} SELECT shown, count(*) AS n FROM fit GROUP BY shown`,
		bind
	)) {
		counts[shown] = n;
		counts.all += n;
	}
	const folding = { ...bind, state: filter.state, round: filter.round };
	const { n: all } = (await db.one<{ n: number }>(
		`WITH ${sql}, ${placed} SELECT count(*) AS n FROM line`,
		folding
	))!;
	const pages = Math.max(1, Math.ceil(all / perPage));
	const page = Math.min(filter.page, pages);
	// What leaves next stands first; what has left, or is no further than a draft, the newest first.
	const part = await db.all<{
		id: number;
		shown: string;
		mine: 0 | 1;
		following: number;
		last: number;
	}>(
		`WITH ${sql}, ${placed} SELECT id, shown, sender_id = $me AS mine,
			CASE WHEN folded THEN dates - 1 ELSE 0 END AS following, last
		FROM line ORDER BY ahead DESC, CASE WHEN ahead THEN at ELSE -at END, id DESC
		LIMIT ${perPage} OFFSET $offset`,
		{ ...folding, offset: (page - 1) * perPage }
	);
	const lines = await linesOf(
		db,
		user,
		part.map((r) => r.id)
	);
	const rowOf = new Map(part.map((r) => [r.id, r]));
	const district = may(user, 'speak-for-district');
	return {
		lines: lines.map((line) => {
			const { shown, mine, following, last } = rowOf.get(line.id)!;
			return {
				...line,
				ended: shown === 'ended',
				mine: mine === 1 || district,
				following: following > 0 ? { dates: following, lastAt: last } : null
			};
		}),
		found: all,
		page,
		pages,
		counts,
		day
	};
}

/** Makes a draft of one's own with everything that a dispatch has but its time. Returns its id, or null where the user may not see it. */
export async function duplicate(db: Db, user: User, dispatchId: number): Promise<number | null> {
	const condition = scope(user).dispatches;
	const row = await db.one<SheetRow & { words: string; senderId: number; state: string }>(
		`SELECT ${sheetColumns}, audience_words AS words, sender_id AS senderId, state FROM dispatch
		WHERE id = $id AND ${condition.sql}`,
		{ id: dispatchId, ...condition.bind }
	);
	if (!row || (row.state === 'draft' && row.senderId !== user.personId)) return null;
	const before = sheetOfRow(row);
	const sheet = {
		...before,
		sheetKey: randomUUID(),
		timing: { ...before.timing, when: { kind: 'now' as const }, ends: null },
		// Another's files are theirs to send.
		letter: row.senderId === user.personId ? before.letter : { ...before.letter, files: [] }
	};
	return db.write(async (tx) =>
		putDispatch(tx, null, {
			...sheetValues(sheet, row.words),
			sheetKey: sheet.sheetKey,
			senderId: user.personId,
			state: 'draft',
			changedAt: Math.round(await now(tx))
		})
	);
}
