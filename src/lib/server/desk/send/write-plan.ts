import { markersNamed } from '../../../core/copy/fields';
import { userById } from '../../access/user';
import { dispatch } from '../../db/models/dispatch';
import type { Query } from '../../db/open';
import { markersThere } from '../audience/markers-seen';
import { planSets, type PlanRows } from './plan-rows';

/** Takes the copies of a dispatch away, with its students, everyone left or taken out, and its boards; only what has not left may be. */
export async function clearPlan(tx: Query, dispatchId: number): Promise<void> {
	for (const table of [
		...['delivery', 'dispatch_student', 'dispatch_mark', 'left_out', 'taken_out'],
		...['board_place', 'forecast', 'forecast_chance']
	]) {
		await tx.run(`DELETE FROM ${table} WHERE dispatch_id = $id`, { id: dispatchId });
	}
	await tx.run('UPDATE dispatch SET plan = plan + 1, written = 0 WHERE id = $id', {
		id: dispatchId
	});
}

/** Keeps what the markers that its wording speaks of say of its students now, as far as its sender may use them. */
async function putMarks(tx: Query, id: number): Promise<void> {
	const { wording, senderId } = (await tx.rows(dispatch).one({ id }))!;
	const named = markersNamed(wording);
	if (named.length === 0) return;
	const user = await userById(tx, senderId);
	const markers = user ? await markersThere(tx, user, named) : [];
	await tx.run(
		`INSERT INTO dispatch_mark (dispatch_id, marker_id, student_id, value)
		SELECT $id, marker_id, student_id, value FROM marked JOIN dispatch_student USING (student_id)
		WHERE dispatch_id = $id AND value IS NOT NULL AND marker_id IN (SELECT value FROM json_each($markers))`,
		{ id, markers: JSON.stringify(markers) }
	);
}

/** Writes a manifest down at an instant (ms): students, copies with their links and moments, everyone left out, and the boards it stands on. */
export async function writePlan(
	tx: Query,
	dispatchId: number,
	rows: PlanRows,
	time: number
): Promise<void> {
	// Also of copies that are not there any more: no number is used again.
	const { first, firstOut } = (await tx.one<{ first: number; firstOut: number }>(
		`SELECT 1 + coalesce((SELECT seq FROM sqlite_sequence WHERE name = 'delivery'), 0) AS first,
			1 + coalesce((SELECT seq FROM sqlite_sequence WHERE name = 'left_out'), 0) AS firstOut`
	))!;
	const id = dispatchId;
	const put = (sql: string, json: string, bind: Record<string, number> = {}) =>
		json === '[]' ? Promise.resolve() : tx.run(sql, { rows: json, ...bind });
	await put(
		`INSERT INTO dispatch_student (dispatch_id, student_id, section_id)
		SELECT $id, student_id, section_id FROM ${planSets.students.table}`,
		rows.students,
		{ id }
	);
	await putMarks(tx, id);
	await put(
		`INSERT INTO taken_out (dispatch_id, student_id, line)
		SELECT $id, student_id, line FROM ${planSets.takenOut.table}`,
		rows.takenOut,
		{ id }
	);
	await put(
		`INSERT INTO left_out (id, dispatch_id, person_id, reasons, reached)
		SELECT $firstOut + n, $id, person_id, reasons, reached
		FROM ${planSets.leftOut.table}
		WHERE person_id IN (SELECT id FROM person)`,
		rows.leftOut,
		{ id, firstOut }
	);
	await put(
		`INSERT INTO left_out_student (left_out_id, student_id)
		SELECT $firstOut + n, student_id FROM ${planSets.leftOutStudents.table}
		WHERE $firstOut + n IN (SELECT id FROM left_out WHERE dispatch_id = $id)`,
		rows.leftOutStudents,
		{ id, firstOut }
	);
	await put(
		`INSERT INTO delivery (id, dispatch_id, person_id, way, address, state, state_at, due_at, link_hash, step, nonce, in_digest)
		SELECT $first + n, $id, person_id, way, address, state, $time, due_at, link_hash, step, nonce, in_digest
		FROM ${planSets.copies.table}`,
		rows.copies,
		{ id, first, time }
	);
	await put(
		`INSERT INTO delivery_student (delivery_id, student_id)
		SELECT $first + n, student_id FROM ${planSets.copyStudents.table}`,
		rows.copyStudents,
		{ first }
	);
	await put(
		`INSERT INTO delivery_also (delivery_id, person_id)
		SELECT $first + n, person_id FROM ${planSets.copyReaders.table}`,
		rows.copyReaders,
		{ first }
	);
	await put(
		`INSERT INTO event (delivery_id, at, kind, source, detail, code)
		SELECT $first + n, $time, 'scheduled', 'plan', detail, code FROM ${planSets.events.table}`,
		rows.events,
		{ first, time }
	);
	await put(
		`INSERT INTO board_place (dispatch_id, kind, place_id, term_id)
		SELECT $id, kind, place_id, term_id FROM ${planSets.boards.table}`,
		rows.boards,
		{ id }
	);
	await tx.run(
		'UPDATE dispatch SET plan = plan + 1, written = 1, expected = $expected, last_due = $last WHERE id = $id',
		{ id, expected: JSON.stringify(rows.byWay), last: rows.lastDue }
	);
}
