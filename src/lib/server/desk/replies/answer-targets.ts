import { nextForReader } from '../../../core/plan/next-for-reader';
import type { Way } from '../../../core/roster/way';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { readTimes } from '../../db/calendar';
import type { OwnTimeRow } from '../../db/models/roster';
import type { Query } from '../../db/open';
import { waysBack, type WayBack } from './ways-back';

/** A reader's own zone and quiet hours (minutes after midnight); null where they have none. */
type OwnHours = Pick<OwnTimeRow, 'zone' | 'quietFrom' | 'quietTo'>;

/** A conversation that is answered. */
export interface Target extends OwnHours {
	readonly id: number;
	readonly personId: number;
	readonly schoolId: number | null;
	readonly subject: string;
	/** JSON list: whom the copy that it answers spoke of. */
	readonly students: string;
	readonly back: WayBack;
}

/** Whom an answer goes to: each person once, by the way their conversation allows; and how many conversations no way reaches. */
export async function targetsOf(
	tx: Query,
	user: User,
	{ conversations, way }: { readonly conversations: readonly number[]; readonly way: Way | null },
	at: number
): Promise<{ targets: Target[]; without: number }> {
	const seen = scope(user).conversations;
	const rows = await tx.all<Pick<Target, 'id' | 'schoolId' | 'subject' | 'students'>>(
		`SELECT conversation.id, conversation.school_id AS schoolId,
			CASE WHEN conversation.subject = '' THEN coalesce(dispatch.subject, '') ELSE conversation.subject END AS subject,
			(SELECT json_group_array(DISTINCT student_id) FROM delivery JOIN delivery_student ON delivery_id = delivery.id
				WHERE delivery.dispatch_id = conversation.dispatch_id AND delivery.person_id = conversation.person_id) AS students
		FROM conversation LEFT JOIN dispatch ON dispatch.id = dispatch_id
		WHERE conversation.id IN (SELECT value FROM json_each($ids)) AND ${seen.sql} ORDER BY conversation.id`,
		{ ids: JSON.stringify(conversations), ...seen.bind }
	);
	const ways = await waysBack(
		tx,
		rows.map((r) => r.id),
		at
	);
	const found: Omit<Target, keyof OwnHours>[] = [];
	const people = new Set<number>();
	for (const row of rows) {
		// Who it goes to, the ways back know: whoever was made one with somebody, or has the number since.
		const { personId = null, ways: open = [] } = ways.get(row.id) ?? {};
		const back = way === null ? open[0] : open.find((w) => w.way === way);
		// One answer goes to each person once, however many of their conversations it answers.
		if (!back || personId === null || people.has(personId)) continue;
		people.add(personId);
		found.push({ ...row, personId, back });
	}
	const targets = await withHours(tx, found);
	return { targets, without: conversations.length - targets.length };
}

async function withHours(
	tx: Query,
	found: readonly Omit<Target, keyof OwnHours>[]
): Promise<Target[]> {
	const own = await tx.all<OwnHours & { personId: number }>(
		`SELECT person_id AS personId, zone, quiet_from AS quietFrom, quiet_to AS quietTo FROM own_time
		WHERE person_id IN (SELECT value FROM json_each($people))`,
		{ people: JSON.stringify(found.map((t) => t.personId)) }
	);
	const hours = new Map(own.map((o) => [o.personId, o]));
	const none: OwnHours = { zone: null, quietFrom: null, quietTo: null };
	return found.map((t) => ({ ...none, ...hours.get(t.personId), ...t }));
}

/** When each copy leaves (instants, ms): out of quiet hours by the reader's own clock, unless the family wrote by this way a moment ago. */
export async function dueOf(
	tx: Query,
	targets: readonly Target[],
	from: number
): Promise<number[]> {
	const { quiet } = await readTimes(tx);
	return targets.map(({ back, schoolId, ...own }) => {
		const schoolIds = schoolId === null ? [] : [schoolId];
		return back.awake ? from : nextForReader(quiet, from, { ...own, way: back.way, schoolIds });
	});
}

/** Until when quiet hours would hold an answer back, by way; nothing where it would leave now. */
export async function quietUntil(
	tx: Query,
	user: User,
	conversationId: number,
	at: number
): Promise<ReadonlyMap<Way, number>> {
	const found = new Map<Way, number>();
	for (const way of ['email', 'text'] as const) {
		const { targets } = await targetsOf(tx, user, { conversations: [conversationId], way }, at);
		const [due] = await dueOf(tx, targets, at);
		if (due !== undefined && due > at) found.set(way, due);
	}
	return found;
}
