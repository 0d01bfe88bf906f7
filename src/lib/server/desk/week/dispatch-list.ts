import { randomUUID } from 'node:crypto';
import { parse } from 'chrono-node';
import { DateTime } from 'luxon';
import { z } from 'zod';
import { fold } from '../../../core/format/fold';
import { isOver } from '../../../core/track/over';
import { may, scope } from '../../access/may';
import type { User } from '../../access/sessions';
import { now } from '../../clock';
import { readDistrict } from '../../db/district';
import type { Db } from '../../db/open';
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

/** Every dispatch a user may see, drafts among them: by state, and by every word of the search in subject, words, audience or sender. */
export async function dispatchList(db: Db, user: User, filter: ListFilter): Promise<DispatchList> {
	const { zone } = await readDistrict(db);
	const time = await now(db);
	const condition = scope(user).dispatches;
	const day = dayIn(filter.search, time, zone);
	const words = day ? [] : fold(filter.search).split(/\s+/).filter(Boolean);
	const rows = await db.all<{
		id: number;
		state: 'draft' | 'scheduled' | 'sent';
		at: number;
		endsAt: number | null;
		sentAt: number | null;
		roundId: number | null;
		text: string;
	}>(
		`SELECT dispatch.id, state, coalesce(leaves_at, changed_at) AS at,
			ends_at AS endsAt, sent_at AS sentAt, round_id AS roundId,
			${words.length > 0 ? `subject || ' ' || body || ' ' || audience_words || ' ' || given_name || ' ' || family_name` : `''`} AS text
		FROM dispatch JOIN person ON person.id = sender_id
		WHERE (CASE WHEN state = 'draft' THEN sender_id = $me ELSE ${condition.sql} END)
			${day ? 'AND coalesce(leaves_at, changed_at) >= $from AND coalesce(leaves_at, changed_at) < $to' : ''}
		ORDER BY at DESC, dispatch.id DESC`,
		{
			me: user.personId,
			...(day ? { from: day.from, to: day.to } : {}),
			...condition.bind
		}
	);
	const fit = rows.filter((r) => {
		if (words.length === 0) return true;
		const text = fold(r.text);
		return words.every((w) => text.includes(w));
	});
	const stateOf = (r: (typeof rows)[number]): ListState => (isOver(r, time) ? 'ended' : r.state);
	const counts: Record<ListState, number> = {
		all: fit.length,
		draft: 0,
		scheduled: 0,
		sent: 0,
		ended: 0
	};
	for (const r of fit) counts[stateOf(r)] += 1;
	const inState = filter.state === 'all' ? fit : fit.filter((r) => stateOf(r) === filter.state);
	// What leaves next stands first; what has left, or is no further than a draft, the newest first.
	const ahead = inState.filter((r) => r.state === 'scheduled').sort((a, b) => a.at - b.at);
	const following = new Map<number, { dates: number; lastAt: number }>();
	const nextOf = new Map<number, number>();
	const next = ahead.filter((r) => {
		if (r.roundId === null || r.roundId === filter.round) return true;
		const first = nextOf.get(r.roundId);
		if (first === undefined) {
			nextOf.set(r.roundId, r.id);
			return true;
		}
		following.set(first, { dates: (following.get(first)?.dates ?? 0) + 1, lastAt: r.at });
		return false;
	});
	const shown = [...next, ...inState.filter((r) => r.state !== 'scheduled')];
	const pages = Math.max(1, Math.ceil(shown.length / perPage));
	const page = Math.min(filter.page, pages);
	const part = shown.slice((page - 1) * perPage, page * perPage);
	const lines = await linesOf(
		db,
		user,
		part.map((r) => r.id)
	);
	const byId = new Map(part.map((r) => [r.id, r]));
	const mine = new Set(
		(
			await db.all<{ id: number }>('SELECT id FROM dispatch WHERE sender_id = $me', {
				me: user.personId
			})
		).map((r) => r.id)
	);
	return {
		lines: lines.map((line) => ({
			...line,
			ended: isOver(byId.get(line.id)!, time),
			mine: mine.has(line.id) || may(user, 'speak-for-district'),
			following: following.get(line.id) ?? null
		})),
		found: shown.length,
		page,
		pages,
		counts,
		day: day?.date ?? null
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
			sheet_key: sheet.sheetKey,
			sender_id: user.personId,
			state: 'draft',
			changed_at: Math.round(await now(tx))
		})
	);
}
