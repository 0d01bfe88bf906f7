import type { Db } from './db/open';

/**
 * Tells open pages that something was said in a conversation, or that somebody came to it or left: both sides see each
 * other within a moment. One look at the database for all of them together; who is there is known to this process alone.
 */
const lookMs = 300;

/** What names a conversation for both sides, also before anything was said in it: a dispatch and its reader, or its own number. */
export type TalkKey = `d${number} p${number}` | `c${number}`;
/** Everything, for a list. */
export const everyTalk = 'all';

type Listener = () => void;
const listeners = new Map<string, Set<Listener>>();
/** Who is in a conversation, by key: families, and staff by name. */
const there = new Map<TalkKey, { family: number; readonly staff: Map<string, number> }>();
let looking: ReturnType<typeof setInterval> | undefined;
let seen: { answer: number; event: number; act: number } | null = null;
let busy = false;

const tellAll = (key: string) => listeners.get(key)?.forEach((tell) => tell());

async function look(db: Db): Promise<void> {
	if (busy) return;
	busy = true;
	try {
		const now = (await db.one<{ answer: number; event: number; act: number }>(
			`SELECT coalesce((SELECT max(id) FROM answer), 0) AS answer, coalesce((SELECT max(id) FROM event), 0) AS event,
				coalesce((SELECT max(id) FROM conversation_act), 0) AS act`
		))!;
		const before = seen;
		seen = now;
		if (before === null) return;
		if (now.answer === before.answer && now.event === before.event && now.act === before.act)
			return;
		const changed = await db.all<{
			id: number;
			dispatchId: number | null;
			personId: number | null;
		}>(
			`SELECT id, dispatch_id AS dispatchId, person_id AS personId FROM conversation WHERE id IN (
				SELECT conversation_id FROM answer WHERE id > $answer
				UNION SELECT conversation_id FROM event JOIN conversation_copy USING (delivery_id) WHERE event.id > $event
				UNION SELECT conversation_id FROM conversation_act WHERE id > $act)`,
			before
		);
		for (const { id, dispatchId, personId } of changed) {
			tellAll(`c${id}`);
			if (dispatchId !== null && personId !== null) tellAll(`d${dispatchId} p${personId}`);
		}
		if (changed.length > 0) tellAll(everyTalk);
	} catch {
		// The database is busy or being replaced; the next look comes soon.
	} finally {
		busy = false;
	}
}

/** Calls `tell` whenever something was said or done in a conversation, or somebody came or left, until the returned function is called. */
export function listenToTalk(db: Db, key: TalkKey | typeof everyTalk, tell: Listener): () => void {
	const mine = listeners.get(key) ?? new Set();
	mine.add(tell);
	listeners.set(key, mine);
	looking ??= setInterval(() => void look(db), lookMs);
	return () => {
		mine.delete(tell);
		if (mine.size === 0) listeners.delete(key);
		if (listeners.size > 0 || !looking) return;
		clearInterval(looking);
		looking = undefined;
		seen = null;
	};
}

/** Says that somebody is in a conversation, until the returned function is called: a family, or one of the staff by name. */
export function comeIn(key: TalkKey, who: 'family' | { readonly name: string }): () => void {
	const room = there.get(key) ?? { family: 0, staff: new Map<string, number>() };
	there.set(key, room);
	const count = (by: number) => {
		if (who === 'family') room.family += by;
		else {
			const n = (room.staff.get(who.name) ?? 0) + by;
			if (n > 0) room.staff.set(who.name, n);
			else room.staff.delete(who.name);
		}
		if (room.family === 0 && room.staff.size === 0) there.delete(key);
		tellAll(key);
	};
	count(1);
	let left = false;
	return () => {
		if (left) return;
		left = true;
		count(-1);
	};
}

/** Who is in a conversation now. */
export function whoIsThere(key: TalkKey): {
	readonly family: boolean;
	readonly staff: readonly string[];
} {
	const room = there.get(key);
	return { family: (room?.family ?? 0) > 0, staff: [...(room?.staff.keys() ?? [])] };
}
