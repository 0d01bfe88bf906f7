import type { Resolved } from '../audience/resolved';
import type { LeftOut, Manifest, PlannedCopy } from './manifest';

/** Those who were passed over, a row for each person and reason: also for one child where they are written to for another. */
export function passedOver(
	excluded: Resolved['excluded'],
	reached: ReadonlySet<number>
): Iterable<LeftOut> {
	const rows = new Map<string, LeftOut & { studentIds: number[] }>();
	for (const { personId, studentId, reason } of excluded) {
		const key = `${personId} ${JSON.stringify(reason)}`;
		let row = rows.get(key);
		if (!row) {
			row = { personId, studentIds: [], reasons: [reason], reached: reached.has(personId) };
			rows.set(key, row);
		}
		if (studentId !== null) row.studentIds.push(studentId);
	}
	return rows.values();
}

/**
 * Lists whom a line took out, for students of whom no copy speaks: then a reason stands beside each
 * of the student's people. Where somebody else is written to for the student it would say only what
 * the line says.
 */
export function withOutByLine<M extends Manifest>(manifest: M): M {
	if (manifest.outByLine.length === 0) return manifest;
	const spokenOf = studentsSpokenOf(manifest.copies);
	const listed = new Set(
		manifest.leftOut.flatMap((l) =>
			l.reasons.some((r) => r.code === 'by-line')
				? l.studentIds.map((s) => `${l.personId} ${s}`)
				: []
		)
	);
	const reached = new Set(manifest.recipients.map((r) => r.personId));
	const more: LeftOut[] = [];
	for (const { personId, studentId, line } of manifest.outByLine) {
		if (spokenOf.has(studentId) || listed.has(`${personId} ${studentId}`)) continue;
		more.push({
			personId,
			studentIds: [studentId],
			reasons: [{ code: 'by-line', line }],
			reached: reached.has(personId)
		});
	}
	return more.length === 0 ? manifest : { ...manifest, leftOut: [...manifest.leftOut, ...more] };
}

/** Every student that one of these copies speaks of. */
export function studentsSpokenOf(copies: readonly Pick<PlannedCopy, 'studentIds'>[]): Set<number> {
	const spokenOf = new Set<number>();
	for (const copy of copies) for (const id of copy.studentIds) spokenOf.add(id);
	return spokenOf;
}
