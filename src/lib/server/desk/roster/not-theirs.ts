import { withoutDuty } from '../../../core/audience/people';
import { now } from '../../clock';
import { free } from '../../db/copy-state';
import { delivery, deliveryAlso } from '../../db/models/delivery';
import { rowSet } from '../../db/many';
import type { Query } from '../../db/open';
import { record } from '../track/record';

/** A person who is no longer to be written to about a student. */
export interface LostTie {
	readonly studentId: number;
	readonly personId: number;
	/** Custody alone was lost: whoever was written to whether with custody or without still is. */
	readonly custodyOnly: boolean;
}

const ties = rowSet('$ties', ['student', 'person', 'custodyOnly']);

/** Dispatches that pass over custody by an explicit choice of their lines. */
const passesOver = `EXISTS (SELECT 1 FROM dispatch, json_tree(audience) AS part
	WHERE dispatch.id = delivery.dispatch_id AND part.key = 'kind' AND part.atom IN (${[...withoutDuty]
		.map((kind) => `'${kind}'`)
		.join(', ')}))`;

/**
 * Takes students out of copies that wait for people who are no longer theirs, in the transaction that
 * ends the tie: no copy that is claimed after it speaks of them. A copy that then speaks of nobody goes
 * to whoever else reads at its address, or is stopped. What is in the courier's hands has left.
 */
export async function stopWhatIsNotTheirs(
	tx: Query,
	{ lost, gone }: { readonly lost: readonly LostTie[]; readonly gone: readonly number[] }
): Promise<void> {
	const time = await now(tx);
	const bind = {
		ties: ties.json(
			lost.map((l) => ({
				student: l.studentId,
				person: l.personId,
				custodyOnly: Number(l.custodyOnly)
			}))
		)
	};
	const people = JSON.stringify([...new Set([...lost.map((l) => l.personId), ...gone])]);
	// Copies that wait are few beside the people of a large roster: they are looked through once.
	const waiting = await tx.all<{ id: number }>(
		`SELECT id FROM delivery WHERE ${free} AND (person_id IN (SELECT value FROM json_each($people))
			OR id IN (SELECT delivery_id FROM delivery_also WHERE person_id IN (SELECT value FROM json_each($people))))`,
		{ people }
	);
	if (waiting.length === 0) return;
	const ids = JSON.stringify(waiting.map((w) => w.id));
	const goneJson = JSON.stringify(gone);
	await tx.run(
		`DELETE FROM delivery_also WHERE delivery_id IN (SELECT value FROM json_each($ids))
			AND person_id IN (SELECT value FROM json_each($gone))`,
		{ ids, gone: goneJson }
	);
	const about = `SELECT delivery_student.delivery_id AS copy, student_id AS student FROM delivery_student
		JOIN delivery ON delivery.id = delivery_student.delivery_id
		JOIN ${ties.table} AS lost ON lost.student = student_id AND lost.person = delivery.person_id
		WHERE delivery.id IN (SELECT value FROM json_each($ids)) AND NOT (lost.custodyOnly AND ${passesOver})
			AND NOT EXISTS (SELECT 1 FROM delivery_also WHERE delivery_id = delivery.id)`;
	const touched = await tx.all<{ copy: number }>(`SELECT DISTINCT copy FROM (${about})`, {
		ids,
		...bind
	});
	await tx.run(`DELETE FROM delivery_student WHERE (delivery_id, student_id) IN (${about})`, {
		ids,
		...bind
	});
	await handOver(
		tx,
		waiting.map((w) => w.id),
		gone
	);
	const empty = await tx.all<{ id: number }>(
		`SELECT delivery.id FROM delivery WHERE id IN (SELECT value FROM json_each($ids))
			AND (person_id IN (SELECT value FROM json_each($gone))
				OR (id IN (SELECT value FROM json_each($touched))
					AND NOT EXISTS (SELECT 1 FROM delivery_student WHERE delivery_id = delivery.id)))`,
		{ ids, gone: goneJson, touched: JSON.stringify(touched.map((t) => t.copy)) }
	);
	await record(
		tx,
		empty.map(({ id }) => ({
			deliveryId: id,
			at: time,
			kind: 'stopped' as const,
			source: 'plan' as const,
			code: 'not-theirs',
			detail: 'not sent: they are no longer to be written to about this student'
		}))
	);
}

/** Copies of people who no longer read at their address go each to the one who still does. */
export async function handOver(
	tx: Query,
	copies: readonly number[],
	people: readonly number[]
): Promise<void> {
	const heirs = await tx.all<{ id: number; heir: number }>(
		`SELECT delivery.id, min(delivery_also.person_id) AS heir FROM delivery
		JOIN delivery_also ON delivery_id = delivery.id
		WHERE delivery.id IN (SELECT value FROM json_each($copies))
			AND delivery.person_id IN (SELECT value FROM json_each($people)) GROUP BY delivery.id`,
		{ copies: JSON.stringify(copies), people: JSON.stringify(people) }
	);
	for (const { id, heir } of heirs) {
		await tx.rows(deliveryAlso).remove({ deliveryId: id, personId: heir });
		await tx.rows(delivery).change({ id }, { personId: heir });
	}
}
