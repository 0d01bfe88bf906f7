import type { CopyFacts } from '../src/lib/core/copy/values';
import { deliveryFacts } from '../src/lib/server/db/copy-facts';
import type { Db } from '../src/lib/server/db/open';
import { now } from '../src/lib/server/clock';
import { closeDispatches } from '../src/lib/server/desk/close';
import { record, type Happening } from '../src/lib/server/desk/record';
import type { Identity } from './identity';

/** A copy that this courier has claimed, with all that is needed to write it out. */
export interface Claimed {
	readonly id: number;
	readonly dispatchId: number;
	readonly address: string;
	readonly attempts: number;
	readonly facts: CopyFacts;
	/** BCP 47 tag of the language its reader wants. */
	readonly language: string;
}

/** Of dispatches that are not settled yet, or whose end has come, no copy leaves. */
const mayLeave = `dispatch_id NOT IN (SELECT id FROM dispatch
	WHERE state = 'scheduled' AND (settled = 0 OR ends_at <= $time))`;

/** Writes one happening down for all copies of a kind, in one transaction, and closes dispatches that are complete by it. Returns how many; none where another courier holds the office. */
async function recordAll(
	db: Db,
	me: Identity,
	where: string,
	happening: Pick<Happening, 'kind' | 'detail'>
): Promise<number> {
	const time = await now(db);
	if (!(await db.one(`SELECT 1 FROM delivery WHERE ${where} LIMIT 1`, { time }))) return 0;
	return db.write(async (tx) => {
		if (!(await me.holds(tx))) return 0;
		const rows = await tx.all<{ id: number; dispatchId: number }>(
			`SELECT id, dispatch_id AS dispatchId FROM delivery WHERE ${where} ORDER BY due_at, id LIMIT 5000`,
			{ time }
		);
		await record(
			tx,
			rows.map(({ id }) => ({ deliveryId: id, at: time, ...happening }))
		);
		await closeDispatches(
			tx,
			rows.map((r) => r.dispatchId),
			time
		);
		return rows.length;
	});
}

/** Writes down that copies whose dispatch has come to its end before they could leave are not sent. Returns how many. */
export const lapse = (db: Db, me: Identity): Promise<number> =>
	recordAll(
		db,
		me,
		`state IN ('held', 'planned') AND claimed_by IS NULL AND dispatch_id IN
			(SELECT id FROM dispatch WHERE state = 'scheduled' AND settled = 1 AND ends_at <= $time)`,
		{
			kind: 'stopped',
			detail: 'not sent: the end time of the dispatch came before it could leave'
		}
	);

/** Puts due inbox copies in their place: for the inbox, being due is being there. Returns how many. */
export const placeInbox = (db: Db, me: Identity): Promise<number> =>
	recordAll(
		db,
		me,
		`way = 'inbox' AND due_at <= $time AND state IN ('held', 'planned') AND ${mayLeave}`,
		{ kind: 'delivered', detail: 'placed in the inbox' }
	);

/** Claims due copies of one way: those whose time has come, oldest first. None where another courier holds the office. */
export async function claim(
	db: Db,
	me: Identity,
	way: 'email' | 'text',
	limit: number
): Promise<Claimed[]> {
	const due = `way = $way AND due_at <= $time AND state IN ('held', 'planned') AND claimed_by IS NULL AND ${mayLeave}`;
	// Looked at outside the write lock first: most of the time nothing is due.
	const time = await now(db);
	if (!(await db.one(`SELECT 1 FROM delivery WHERE ${due} LIMIT 1`, { way, time }))) return [];
	return db.write(async (tx) => {
		if (!(await me.holds(tx))) return [];
		const ids = JSON.stringify(
			(
				await tx.all<{ id: number }>(
					`SELECT id FROM delivery WHERE ${due} ORDER BY due_at, id LIMIT $limit`,
					{ way, time, limit }
				)
			).map((r) => r.id)
		);
		await tx.run(
			`UPDATE delivery SET claimed_by = $me, attempts = attempts + 1
			WHERE id IN (SELECT value FROM json_each($ids))`,
			{ me: me.instance, ids }
		);
		const rows = await tx.all<Omit<Claimed, 'facts' | 'language'>>(
			`SELECT id, dispatch_id AS dispatchId, address, attempts FROM delivery
			WHERE id IN (SELECT value FROM json_each($ids)) ORDER BY due_at, id`,
			{ ids }
		);
		const facts = await deliveryFacts(
			tx,
			rows.map((r) => r.id)
		);
		return rows.map((r) => ({ ...r, ...facts.get(r.id)! }));
	});
}
