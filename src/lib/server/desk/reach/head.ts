import { turnsSchema } from '../../../core/plan/turns';
import type { Way } from '../../../core/roster/way';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import type { Query } from '../../db/open';
import type { DispatchRow } from '../../db/models/dispatch';
import type { ReachedDispatch } from './types';

/** The row of a dispatch, as it is read for Reach. */
export interface Head {
	id: number;
	subject: string;
	body: string;
	audience: string;
	sender: string;
	senderId: number;
	state: 'scheduled' | 'sent';
	ways: string;
	turns: string;
	scheduledAt: number;
	leavesAt: number;
	sentAt: number | null;
	endsAt: number | null;
	waits: string | null;
	roundId: number | null;
	chases: number | null;
	/** The school by whose clock it was set; null for the district's. */
	clock: number | null;
	expected: string;
}

/** Reads a dispatch that was sent or is on its way, where the user may see it; null else. */
export async function dispatchHead(db: Query, user: User, id: number): Promise<Head | null> {
	const condition = scope(user).dispatches;
	return (
		(await db.one<Head>(
			`SELECT dispatch.id, subject, body, audience_words AS audience,
				given_name || ' ' || family_name AS sender, sender_id AS senderId, state, ways, turns,
				scheduled_at AS scheduledAt, leaves_at AS leavesAt, sent_at AS sentAt, ends_at AS endsAt,
				waits, round_id AS roundId, chases, expected,
				json_extract(timing, '$.clock') AS clock
			FROM dispatch JOIN person ON person.id = sender_id
			WHERE dispatch.id = $id AND state != 'draft' AND ${condition.sql}`,
			{ id, ...condition.bind }
		)) ?? null
	);
}

/** A dispatch as Reach heads it: `written` is how many copies there are in its rows. */
export async function reachedDispatch(
	db: Query,
	user: User,
	{ expected, chases, turns, ways, ...head }: Head,
	written: number
): Promise<ReachedDispatch> {
	return {
		...head,
		ways: JSON.parse(ways) as Way[],
		turns: turnsSchema.parse(JSON.parse(turns)),
		urgent: await urgency(db, head.id),
		...(await chaseLinks(db, user, head.id, chases)),
		farAhead:
			head.state === 'scheduled' && head.waits === null && written === 0 && expected !== '{}'
	};
}

/** Who used the right to send urgently, and over how many wishes; null where nobody did. */
async function urgency(db: Query, id: number): Promise<ReachedDispatch['urgent']> {
	const row = await db.one<{ by: string; at: number; overWish: number }>(
		`SELECT given_name || ' ' || family_name AS by, urgent_at AS at,
			(SELECT count(DISTINCT delivery_id) FROM event JOIN delivery ON delivery.id = delivery_id
				WHERE dispatch_id = dispatch.id AND event.kind = 'scheduled' AND code = 'over-wish') AS overWish
		FROM dispatch JOIN person ON person.id = urgent_by WHERE dispatch.id = $id`,
		{ id }
	);
	return row ?? null;
}

/** The dispatch this one follows up and those that follow it up, as far as the user may see them. */
async function chaseLinks(
	db: Query,
	user: User,
	id: number,
	chases: number | null
): Promise<Pick<ReachedDispatch, 'chases' | 'chasedBy'>> {
	const condition = scope(user).dispatches;
	const rows = await db.all<Pick<DispatchRow, 'id' | 'subject' | 'chases'>>(
		`SELECT id, subject, chases FROM dispatch WHERE (id = $chases OR chases = $id)
			AND state != 'draft' AND ${condition.sql} ORDER BY id`,
		{ id, chases, ...condition.bind }
	);
	const plain = ({ id: other, subject }: { id: number; subject: string }) => ({
		id: other,
		subject
	});
	return {
		chases: rows.filter((r) => r.id === chases).map(plain)[0] ?? null,
		chasedBy: rows.filter((r) => r.chases === id).map(plain)
	};
}
