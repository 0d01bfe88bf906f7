import { invitationToken } from '../../access/tokens';
import { isAllowed, scope } from '../../access/may';
import type { User } from '../../access/user';
import { invitationLink } from '../../db/models/coming';
import type { Db, Query } from '../../db/open';
import { askedBy, type Asked } from '../sheet/asked';
import { leftOf } from './places';
import { askedParties, partyOfComing } from './parties';
import type { ComingCounts, InvitationReach } from './types';

/** The invitation that a dispatch is, or is about, for whoever may see it; null else. */
export async function askedSeen(db: Query, user: User, id: number): Promise<Asked | null> {
	const { sql, bind } = scope(user).dispatches;
	const asked = await askedBy(db, id);
	if (!asked) return null;
	const seen = await db.one(
		`SELECT 1 FROM dispatch WHERE id = $id AND state != 'draft' AND ${sql}`,
		{ id: asked.id, ...bind }
	);
	return seen ? asked : null;
}

type SlotSums = { slot: number; people: number; parties: number; waiting: number };

/** How many said what, counted from the rows that places are given by. */
async function countsOf(db: Db, asked: Asked): Promise<ComingCounts> {
	const row = (await db.one<Omit<ComingCounts, 'asked' | 'unsaid' | 'adults'>>(
		`SELECT count(*) FILTER (WHERE guest_id IS NOT NULL) AS guests,
			count(*) FILTER (WHERE seated) AS comes, coalesce(sum(people) FILTER (WHERE seated), 0) AS people,
			coalesce(sum(students) FILTER (WHERE seated), 0) AS students,
			coalesce(sum(people) FILTER (WHERE seated AND students IS NULL), 0) AS unsaidKind,
			count(*) FILTER (WHERE comes AND NOT seated) AS waits,
			coalesce(sum(people) FILTER (WHERE comes AND NOT seated), 0) AS waitingPeople,
			count(*) FILTER (WHERE NOT comes) AS "not"
		FROM coming WHERE dispatch_id = $id`,
		{ id: asked.id }
	))!;
	const parties = await askedParties(db, asked);
	const answered = await db.all<{ party: number }>(
		`SELECT ${partyOfComing} AS party FROM coming WHERE dispatch_id = $id AND guest_id IS NULL`,
		{ id: asked.id }
	);
	const ofAsked = answered.filter((a) => parties.has(a.party)).length;
	return {
		...row,
		adults: row.people - row.students - row.unsaidKind,
		// Who answered was asked, though they have moved house since, or had a copy for information.
		asked: parties.size + answered.length - ofAsked,
		unsaid: parties.size - ofAsked
	};
}

/** What Reach says of an invitation, for whoever may see it; null where a dispatch asks nothing. */
export async function invitationReach(
	db: Db,
	{ key, publicUrl }: { readonly key: Buffer; readonly publicUrl: string },
	user: User,
	id: number
): Promise<InvitationReach | null> {
	const asked = await askedSeen(db, user, id);
	if (!asked) return null;
	const { asking, subject, until, open, zone } = asked;
	const sums = new Map(
		(
			await db.all<SlotSums>(
				`SELECT slot, coalesce(sum(people) FILTER (WHERE seated), 0) AS people, count(*) FILTER (WHERE seated) AS parties,
					count(*) FILTER (WHERE NOT seated) AS waiting FROM coming WHERE dispatch_id = $id AND comes GROUP BY slot`,
				{ id: asked.id }
			)
		).map((s) => [s.slot, s])
	);
	const { left, slots } = await leftOf(db, asked);
	const link = asking.anybody
		? await db.rows(invitationLink).one({ dispatchId: asked.id })
		: undefined;
	const mine = isAllowed(user, 'handle', asked.senderId);
	return {
		...{ id: asked.id, subject, until, open, zone, left, mine },
		...{ places: asking.places, most: asking.most, anybody: asking.anybody },
		counts: await countsOf(db, asked),
		slots: slots.map((slot) => {
			const { people = 0, parties = 0, waiting = 0 } = sums.get(slot.id) ?? {};
			return { ...slot, people, parties, waiting };
		}),
		link:
			link && link.endedAt === null && mine
				? `${publicUrl}/i/${invitationToken(key, { id: asked.id, nonce: link.nonce })}`
				: null
	};
}
