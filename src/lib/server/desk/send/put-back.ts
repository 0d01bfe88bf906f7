import { writeDown } from '../../access/log';
import { isAllowed, scope } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { waits } from '../../db/copy-state';
import { heldSchema, makeMark } from '../../db/mark';
import type { Db, Query } from '../../db/open';
import { record } from '../track/record';
import type { PutBack, HeldDispatch } from './types';
import type { MarkRow } from '../../db/models/running';
import type { DeliveryRow } from '../../db/models/delivery';

const isDue = `${waits} AND due_at <= $time
	AND dispatch_id IN (SELECT id FROM dispatch WHERE state = 'scheduled')`;

const mostShown = 50;

/** Why nothing leaves from this database until somebody has looked; null where nothing is held. */
export async function putBackOf(db: Query, user: User): Promise<PutBack | null> {
	const row = await db.one<Pick<MarkRow, 'held'>>('SELECT held FROM mark');
	if (!row || row.held === null) return null;
	const time = await now(db);
	// How many there are is for everybody; what they are about for whoever may see them.
	const seen = scope(user).dispatches;
	const dispatches = await db.all<HeldDispatch>(
		`SELECT dispatch.id, subject, given_name || ' ' || family_name AS sender, leaves_at AS leavesAt, count(*) AS copies
		FROM delivery JOIN dispatch ON dispatch.id = dispatch_id JOIN person ON person.id = sender_id
		WHERE ${isDue} AND ${seen.sql} GROUP BY dispatch.id ORDER BY leaves_at LIMIT ${mostShown}`,
		{ time, ...seen.bind }
	);
	const all = await db.one<{ n: number }>(`SELECT count(*) AS n FROM delivery WHERE ${isDue}`, {
		time
	});
	return { ...heldSchema.parse(JSON.parse(row.held)), due: all!.n, dispatches };
}

export type Looked =
	{ readonly ok: true; readonly said: string } | { readonly ok: false; readonly why: string };

/**
 * Lets copies leave again from a database that was put back or copied. `leave-out` writes down first of what is due now
 * that it is not sent: it may have left before, by the database that was lost, and so may what is new in feeds; what is due later leaves at its time.
 */
export async function goOnPutBack(db: Db, user: User, due: 'send' | 'leave-out'): Promise<Looked> {
	if (!isAllowed(user, 'operate'))
		return { ok: false, why: 'Only the district office lets copies leave again.' };
	const held = await putBackOf(db, user);
	if (!held) return { ok: false, why: 'Nothing is held. Load the page again.' };
	let left = 0;
	if (due === 'leave-out') {
		left = await db.write(async (tx) => {
			const time = await now(tx);
			const rows = await tx.all<Pick<DeliveryRow, 'id'>>(
				`SELECT delivery.id FROM delivery WHERE ${isDue}`,
				{
					time
				}
			);
			await record(
				tx,
				rows.map(({ id }) => ({
					deliveryId: id,
					at: time,
					kind: 'stopped' as const,
					source: 'by hand' as const,
					code: 'put-back',
					detail: 'not sent: an older database was put back, and it may have left before',
					said: user.name
				}))
			);
			// What is new in a feed may have left before as well, and no copy is there that says so.
			await tx.run('UPDATE feed SET pass_over = 1 WHERE next_at IS NOT NULL');
			return rows.length;
		});
	}
	await makeMark(db).accept();
	await db.write((tx) =>
		writeDown(tx, {
			...{ act: 'put-back-released', by: user },
			...{ before: { why: held.why }, after: { due, copies: held.due } }
		})
	);
	return {
		ok: true,
		said:
			due === 'send'
				? `Copies leave again, ${held.due} of them now.`
				: `Copies leave again. ${left} that were due were left out, and say so.`
	};
}
