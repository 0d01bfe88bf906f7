import type { Db } from '../db/open';
import { listeners } from './listeners';

/** What names a conversation for both sides, also before anything was said in it: a dispatch and its reader, or its own number. */
export type TalkKey = `d${number} p${number}` | `c${number}`;
/** Everything, for a list. */
export const everyTalk = 'all';

/** The newest answer, event and act. */
type Newest = { answer: number; event: number; act: number };

const ofTalks = listeners<TalkKey | typeof everyTalk, Newest>(
	async (db) =>
		(await db.one<Newest>(
			`SELECT coalesce((SELECT max(id) FROM answer), 0) AS answer, coalesce((SELECT max(id) FROM event), 0) AS event,
				coalesce((SELECT max(id) FROM conversation_act), 0) AS act`
		))!,
	async (db, since) => {
		const changed = await db.all<{
			id: number;
			dispatchId: number | null;
			personId: number | null;
		}>(
			`SELECT id, dispatch_id AS dispatchId, person_id AS personId FROM conversation WHERE id IN (
				SELECT conversation_id FROM answer WHERE id > $answer
				UNION SELECT conversation_id FROM event JOIN conversation_copy USING (delivery_id) WHERE event.id > $event
				UNION SELECT conversation_id FROM conversation_act WHERE id > $act)`,
			since
		);
		const keys = changed.flatMap(({ id, dispatchId, personId }): TalkKey[] => [
			`c${id}`,
			...(dispatchId === null || personId === null ? [] : [`d${dispatchId} p${personId}` as const])
		]);
		return changed.length === 0 ? [] : [...keys, everyTalk];
	}
);

/** Calls `tell` whenever something was said or done in a conversation, or somebody came or left, until the returned function is called. */
export const listenToTalk = (
	db: Db,
	key: TalkKey | typeof everyTalk,
	tell: () => void
): (() => void) => ofTalks.listen(db, key, tell);

/** Who is in a conversation, by key: families, and staff by name. Known to this process alone. */
const there = new Map<TalkKey, { family: number; readonly staff: Map<string, number> }>();

/** More pages than this one family has open of a letter is a program. */
const mostPages = 10;

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
		ofTalks.tell(key);
	};
	count(1);
	let left = false;
	return () => {
		if (left) return;
		left = true;
		count(-1);
	};
}

/** Whether one more page of a family may follow a conversation. */
export const hasRoom = (key: TalkKey): boolean => (there.get(key)?.family ?? 0) < mostPages;

/** Who is in a conversation now. */
export function whoIsThere(key: TalkKey): {
	readonly family: boolean;
	readonly staff: readonly string[];
} {
	const room = there.get(key);
	return { family: (room?.family ?? 0) > 0, staff: [...(room?.staff.keys() ?? [])] };
}
