import type { TimedManifest } from '../../../core/plan/times';
import type { HappeningCode } from '../../../core/track/happening-code';
import { copyToken, hashToken, newNonces } from '../../access/tokens';
import type { Query } from '../../db/open';

/** Takes the copies of a dispatch away, with its students and everyone left or taken out; only what has not left may be. */
export async function clearPlan(tx: Query, dispatchId: number): Promise<void> {
	for (const table of ['delivery', 'dispatch_student', 'left_out', 'taken_out']) {
		await tx.run(`DELETE FROM ${table} WHERE dispatch_id = $id`, { id: dispatchId });
	}
	await tx.run('UPDATE dispatch SET plan = plan + 1, written = 0 WHERE id = $id', {
		id: dispatchId
	});
}

/** Writes a manifest down: students, copies with their links and moments, and everyone left out. `held` says that it waits for the end of its hold. */
export async function writePlan(
	tx: Query,
	key: Buffer,
	dispatchId: number,
	manifest: TimedManifest,
	time: number,
	held: boolean
): Promise<void> {
	// Also of copies that are not there any more: no number is used again.
	const last = await tx.one<{ id: number }>(
		`SELECT coalesce((SELECT seq FROM sqlite_sequence WHERE name = 'delivery'), 0) AS id`
	);
	const first = last!.id + 1;
	const nonces = newNonces(manifest.copies.length);
	const copies = manifest.copies.map((copy, i) => ({
		...copy,
		id: first + i,
		nonce: nonces[i]!,
		dueAt: manifest.dueAt[i]!,
		quiet: manifest.quietUntil[i] !== null
	}));
	const put = (sql: string, rows: readonly unknown[]) =>
		rows.length === 0 ? Promise.resolve() : tx.run(sql, { rows: JSON.stringify(rows) });
	await put(
		`INSERT INTO dispatch_student (dispatch_id, student_id, section_id)
		SELECT ${dispatchId}, value ->> 0, value ->> 1 FROM json_each($rows)`,
		manifest.students.map((s) => [s, manifest.sectionOf.get(s) ?? null])
	);
	await put(
		`INSERT INTO taken_out (dispatch_id, student_id, line)
		SELECT ${dispatchId}, value ->> 0, value ->> 1 FROM json_each($rows)`,
		manifest.takenOut.map((t) => [t.studentId, t.by === 'hand' ? null : t.by])
	);
	await put(
		`INSERT INTO left_out (dispatch_id, person_id, student_ids, reasons, reached)
		SELECT ${dispatchId}, value ->> 0, value ->> 1, value ->> 2, value ->> 3 FROM json_each($rows)
		WHERE value ->> 0 IN (SELECT id FROM person)`,
		manifest.leftOut.map((l) => [
			l.personId,
			JSON.stringify(l.studentIds),
			JSON.stringify(l.reasons),
			l.reached ? 1 : 0
		])
	);
	await put(
		`INSERT INTO delivery (id, dispatch_id, person_id, way, address, state, state_at, due_at, link_hash, step, nonce)
		SELECT value ->> 0, ${dispatchId}, value ->> 1, value ->> 2, value ->> 3,
			CASE WHEN value ->> 6 > 0 THEN 'planned' ELSE '${held ? 'held' : 'planned'}' END, ${time}, value ->> 5, value ->> 4, value ->> 6, value ->> 7 FROM json_each($rows)`,
		copies.map((c) => [
			c.id,
			c.personId,
			c.way,
			c.address,
			c.way === 'inbox' ? null : hashToken(copyToken(key, c.nonce)),
			c.dueAt,
			c.step,
			c.nonce
		])
	);
	await put(
		`INSERT INTO delivery_student (delivery_id, student_id)
		SELECT value ->> 0, value ->> 1 FROM json_each($rows)`,
		copies.flatMap((c) => c.studentIds.map((s) => [c.id, s]))
	);
	await put(
		`INSERT INTO delivery_also (delivery_id, person_id)
		SELECT value ->> 0, value ->> 1 FROM json_each($rows)`,
		copies.flatMap((c) => c.alsoFor.map((p) => [c.id, p]))
	);
	const said = ({ quiet, step, overWish }: (typeof copies)[number]) =>
		overWish
			? `${leaving(quiet, step)}; urgent: goes though its reader wants none of this kind`
			: leaving(quiet, step);
	const leaving = (quiet: boolean, step: number) =>
		step > 0
			? 'waits for its turn: used only if nothing before it has been read by then'
			: quiet
				? 'waits for the end of quiet hours'
				: held
					? 'held before leaving'
					: 'waits for its time';
	await put(
		`INSERT INTO event (delivery_id, at, kind, source, detail, code)
		SELECT value ->> 0, ${time}, 'scheduled', 'plan', value ->> 1, value ->> 2 FROM json_each($rows)`,
		copies.map((c) => [
			c.id,
			c.dueAt <= time && !c.overWish ? 'due at once' : said(c),
			c.overWish ? ('over-wish' satisfies HappeningCode) : null
		])
	);
	const byWay: Record<string, number> = {};
	for (const { way } of copies) byWay[way] = (byWay[way] ?? 0) + 1;
	await tx.run(
		'UPDATE dispatch SET plan = plan + 1, written = 1, expected = $expected, last_due = $last WHERE id = $id',
		{
			id: dispatchId,
			expected: JSON.stringify(byWay),
			last: copies.reduce<number | null>((last, c) => Math.max(last ?? 0, c.dueAt), null)
		}
	);
}
