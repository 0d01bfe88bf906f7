import type { CopyFacts } from '../src/lib/core/copy/values';
import { deliveryFacts } from '../src/lib/server/db/copy-facts';
import { both, inSteps, type Deed } from '../src/lib/server/db/at-once';
import type { Db, Query } from '../src/lib/server/db/open';
import { now } from '../src/lib/server/clock';
import { recordAtOnce, type Happening } from '../src/lib/server/desk/track/record';
import type { Named } from '../src/lib/server/access/tokens';
import { putTogether } from './digests';
import type { Identity } from './identity';
import type { Way, WayOut } from '../src/lib/core/roster/way';
import { isReadOf, free, waits } from '../src/lib/server/db/copy-state';
import type { DeliveryRow } from '../src/lib/server/db/models/delivery';

/** A copy that this courier has claimed, with all that is needed to write it out. */
export interface Claimed {
	readonly id: number;
	/** The random value of its row, from which its link and its addresses are made. */
	readonly nonce: string;
	/** Of the courier that claimed it. */
	readonly fence: number;
	/** Times it was handed over without an answer. */
	readonly unanswered: number;
	readonly dispatchId: number;
	readonly way: WayOut;
	readonly address: string;
	readonly attempts: number;
	readonly facts: CopyFacts;
	/** BCP 47 tag of the language its reader wants. */
	readonly language: string;
	/** The letter that holds it with others; null for one that is a letter of its own. */
	readonly digest: Named | null;
}

/** Of dispatches that are not settled yet, or whose end has come, no copy leaves. */
const mayLeave = `dispatch_id NOT IN (SELECT id FROM dispatch
	WHERE state = 'scheduled' AND (settled = 0 OR ends_at <= $time))`;

/**
 * Copies of a later turn whose readers have all read by now what they say: of each reader, and each
 * student the copy speaks of, there is another copy of the dispatch that was read.
 */
const readMeanwhile = `step > 0 AND claimed_by IS NULL AND NOT EXISTS (
	SELECT 1 FROM (SELECT delivery.person_id AS reader
		UNION SELECT person_id FROM delivery_also WHERE delivery_id = delivery.id) AS mine
	LEFT JOIN delivery_student AS about ON about.delivery_id = delivery.id
	WHERE NOT EXISTS (SELECT 1 FROM delivery AS other
		WHERE other.dispatch_id = delivery.dispatch_id AND other.id != delivery.id
			AND ${isReadOf('other')}
			AND (other.person_id = reader OR EXISTS (SELECT 1 FROM delivery_also
				WHERE delivery_id = other.id AND person_id = reader))
			AND (about.student_id IS NULL OR EXISTS (SELECT 1 FROM delivery_student AS told
				WHERE told.delivery_id = other.id AND told.student_id = about.student_id))))`;

/** So many copies are written down in one transaction. */
const mostAtOnce = 250;

/** Writes one happening down for copies of a kind, in one transaction, and closes dispatches that are complete by it. Returns how many; none where another courier holds the office, or not all of them are of the kind any more. */
async function recordAll(
	db: Db,
	me: Identity,
	where: string,
	happening: Pick<Happening, 'kind' | 'source' | 'detail' | 'code'>
): Promise<number> {
	const time = await now(db);
	const rows = await db.all<Pick<DeliveryRow, 'id'>>(
		`SELECT id FROM delivery WHERE ${where} ORDER BY due_at, id LIMIT ${mostAtOnce}`,
		{ time }
	);
	if (rows.length === 0) return 0;
	const ids = rows.map((r) => r.id);
	const written = await recordAtOnce(
		db,
		ids.map((id) => ({ deliveryId: id, at: time, ...happening })),
		{ stands: both(me.office(), allAre(ids, { sql: where, bind: { time } })) }
	);
	return written ? ids.length : 0;
}

/** That some copies are all of a kind. */
const allAre = (ids: readonly number[], { sql, bind }: Deed): Deed => ({
	sql: `${ids.length} = (SELECT count(*) FROM delivery WHERE id IN (SELECT value FROM json_each($ids)) AND (${sql}))`,
	bind: { ...bind, ids: JSON.stringify(ids) }
});

/** Writes down that copies whose dispatch has come to its end before they could leave are not sent. Returns how many. */
export const lapse = (db: Db, me: Identity): Promise<number> =>
	recordAll(
		db,
		me,
		`${free} AND dispatch_id IN
			(SELECT id FROM dispatch WHERE state = 'scheduled' AND settled = 1 AND ends_at <= $time)`,
		{
			kind: 'stopped',
			source: 'courier',
			code: 'ended',
			detail: 'not sent: the end time of the dispatch came before it could leave'
		}
	);

/** Writes down of copies whose turn has come that they are not needed, their readers having read. Returns how many. */
export const spare = (db: Db, me: Identity): Promise<number> =>
	recordAll(db, me, `due_at <= $time AND ${waits} AND ${readMeanwhile} AND ${mayLeave}`, {
		kind: 'spared',
		source: 'courier',
		detail: 'not needed: when its turn came, what went before it had been read'
	});

/** When the courier next has something to do that needs no provider (job's clock, ms): a copy for the inbox, a later turn, an end; null where nothing is ahead. */
export async function nextWithoutProvider(db: Query): Promise<number | null> {
	const row = await db.one<{ at: number | null }>(
		`SELECT min(at) AS at FROM (
			SELECT min(due_at) AS at FROM delivery WHERE way = 'inbox' AND ${waits}
			UNION ALL SELECT min(due_at) FROM delivery WHERE way IN ('email', 'text') AND ${waits}
				AND step > 0 AND due_at > $time
			UNION ALL SELECT min(ends_at) FROM dispatch WHERE state = 'scheduled' AND ends_at > $time)`,
		{ time: await now(db) }
	);
	return row?.at ?? null;
}

/** Puts due inbox copies in their place: for the inbox, being due is being there. Returns how many. */
export const placeInbox = (db: Db, me: Identity): Promise<number> =>
	recordAll(
		db,
		me,
		`way = 'inbox' AND due_at <= $time AND ${waits} AND NOT (${readMeanwhile}) AND ${mayLeave}`,
		{ kind: 'delivered', source: 'courier', detail: 'placed in the inbox' }
	);

/** When the next copy of a way is due that nobody has claimed (job's clock, ms), also one whose dispatch is not settled yet; null where there is none. */
export async function nextDue(db: Query, way: Way): Promise<number | null> {
	const row = await db.one<{ at: number | null }>(
		`SELECT min(due_at) AS at FROM delivery
		WHERE way = $way AND ${free}`,
		{ way }
	);
	return row?.at ?? null;
}

/** Gives back what was claimed and not handed over: it is no try. */
export async function giveBack(db: Db, me: Identity, ids: readonly number[]): Promise<void> {
	if (ids.length === 0) return;
	await db.run(
		`UPDATE delivery SET claimed_by = NULL, attempts = max(0, attempts - 1)
		WHERE id IN (SELECT value FROM json_each($ids)) AND claimed_by = $fence`,
		{ ids: JSON.stringify(ids), fence: me.fence }
	);
}

/** Claims due copies of one way: those whose time has come, oldest first, and with each what is in one letter with it. None where another courier holds the office. */
export async function claim(db: Db, me: Identity, way: WayOut, limit: number): Promise<Claimed[]> {
	const sql = `way = $way AND due_at <= $time AND ${free} AND NOT (${readMeanwhile}) AND ${mayLeave}`;
	const time = await now(db);
	const dueIn = (q: Query) =>
		q.all<Pick<DeliveryRow, 'id' | 'inDigest'>>(
			`SELECT id, in_digest AS inDigest FROM delivery WHERE ${sql} ORDER BY due_at, id LIMIT $limit`,
			{ way, time, limit }
		);
	// Looked at outside the write lock first: most of the time nothing is due.
	const seen = await dueIn(db);
	if (seen.length === 0) return [];
	const bySteps = () =>
		db.write(async (tx) => {
			if (!(await me.holds(tx))) return null;
			const found = await dueIn(tx);
			if (found.length === 0) return null;
			const ids = found.map((r) => r.id);
			// Of most batches nothing goes in a digest.
			const all = found.some((r) => r.inDigest === 1)
				? await putTogether(tx, ids, { sql, bind: { way, time } })
				: ids;
			await inSteps(tx, claiming(me, all));
			return all;
		});
	const ids = seen.map((r) => r.id);
	const atOnce =
		seen.every((r) => r.inDigest === 0) &&
		(await db.writeAtOnce(
			both(me.office(), allAre(ids, { sql, bind: { way, time } })),
			claiming(me, ids)
		));
	const taken = atOnce ? ids : await bySteps();
	if (taken === null) return [];
	try {
		// Before any of them leaves: a database put back to before this is then known by it. Whatever moved it on since has been committed too.
		await me.mark.keep(await me.mark.number());
		return await readClaimed(db, me, taken);
	} catch (error) {
		// Nobody else would ever hand over what a courier that lives has claimed.
		await giveBack(db, me, taken);
		throw error;
	}
}

/** Copies are a courier's from here on, and the mark has moved on with it. */
const claiming = (me: Identity, ids: readonly number[]): Deed[] => [
	{
		sql: `UPDATE delivery SET claimed_by = $fence, attempts = attempts + 1
			WHERE id IN (SELECT value FROM json_each($ids))`,
		bind: { fence: me.fence, ids: JSON.stringify(ids) }
	},
	me.mark.moved
];

/** What is claimed, with all that its letters say. */
async function readClaimed(db: Db, me: Identity, ids: readonly number[]): Promise<Claimed[]> {
	// Read outside the write lock: what is claimed nobody else changes.
	const rows = await db.all<
		Omit<Claimed, 'facts' | 'language' | 'fence' | 'digest'> & { digest: string | null }
	>(
		`SELECT id, nonce, dispatch_id AS dispatchId, way, address, attempts, unanswered,
			(SELECT json_object('id', digest.id, 'nonce', digest.nonce) FROM digest WHERE digest.id = digest_id) AS digest
		FROM delivery WHERE id IN (SELECT value FROM json_each($ids)) ORDER BY due_at, id`,
		{ ids: JSON.stringify(ids) }
	);
	const facts = await deliveryFacts(
		db,
		rows.map((r) => r.id)
	);
	return rows.map(({ digest, ...r }) => ({
		...r,
		digest: digest === null ? null : (JSON.parse(digest) as Named),
		fence: me.fence,
		...facts.get(r.id)!
	}));
}
