import { audienceSchema } from '../../../core/audience/audience';
import type { Reason } from '../../../core/audience/reasons';
import { lineWords } from '../../../core/audience/sentence';
import { leftStudents, whyLeft, type StudentLeftKind } from '../../../core/plan/students-left';
import { nameBook } from '../../db/names';
import { countedBy } from './coverage';
import { studentIdsOfLeftOut } from './left-out-lines';
import type { Query } from '../../db/open';
import type { StudentLeftLine } from './types';
import type { DispatchRow, LeftOutRow, TakenOutRow } from '../../db/models/dispatch';
import type { PersonRow } from '../../db/models/roster';

/** How many students of a dispatch have nobody who was written to, by how that came about. */
export async function countStudentsLeft(
	db: Query,
	dispatchId: number
): Promise<Record<StudentLeftKind, number>> {
	return (await db.one<Record<StudentLeftKind, number>>(
		`SELECT coalesce(sum(value IN (${listed})), 0) AS unreached,
			coalesce(sum(value NOT IN (${listed})), 0) AS alone,
			(SELECT count(*) FROM taken_out WHERE dispatch_id = $id) AS "out"
		FROM json_each($unspoken)`,
		{ id: dispatchId, unspoken: JSON.stringify(await unspokenOf(db, dispatchId)) }
	))!;
}

/** The students of a dispatch of whom no copy speaks. */
const unspokenOf = async (db: Query, dispatchId: number): Promise<readonly number[]> =>
	(await countedBy(db, [dispatchId])).get(dispatchId)?.unspoken ?? [];

const listed = `SELECT student_id FROM left_out JOIN left_out_student ON left_out_id = left_out.id WHERE dispatch_id = $id`;

/** The students of a dispatch of whom no copy speaks, each with the reason, by section and name; `limit` of each kind at most. */
export async function studentsLeftLines(
	db: Query,
	dispatchId: number,
	limit = 1_000_000
): Promise<StudentLeftLine[]> {
	const nobody = (await unspokenOf(db, dispatchId)).slice(0, limit);
	const out = await db.all<Pick<TakenOutRow, 'studentId' | 'line'>>(
		`SELECT student_id AS studentId, line FROM taken_out WHERE dispatch_id = $id LIMIT $limit`,
		{ id: dispatchId, limit }
	);
	if (nobody.length + out.length === 0) return [];
	const ids = JSON.stringify(nobody);
	const rows = await db.all<
		Pick<LeftOutRow, 'personId' | 'reasons'> & { name: string; studentIds: string }
	>(
		`SELECT person_id AS personId, given_name || ' ' || family_name AS name, ${studentIdsOfLeftOut} AS studentIds, reasons
		FROM left_out JOIN person ON person.id = person_id
		WHERE dispatch_id = $id AND EXISTS (SELECT 1 FROM left_out_student WHERE left_out_id = left_out.id
			AND student_id IN (SELECT value FROM json_each($ids)))`,
		{ id: dispatchId, ids }
	);
	const names = new Map(rows.map((r) => [r.personId, r.name]));
	const dispatch = (await db.one<Pick<DispatchRow, 'audience'>>(
		'SELECT audience FROM dispatch WHERE id = $id',
		{ id: dispatchId }
	))!;
	const audience = audienceSchema.parse(JSON.parse(dispatch.audience));
	const book = await nameBook(db, audience);
	const lines = audience.lines.map((line) => lineWords(line, book));
	const left = leftStudents(
		nobody,
		out.map((o) => ({ studentId: o.studentId, by: o.line ?? 'hand' })),
		rows.map((r) => ({
			personId: r.personId,
			studentIds: JSON.parse(r.studentIds) as number[],
			reasons: JSON.parse(r.reasons) as Reason[],
			reached: false
		}))
	);
	const students = new Map(
		(
			await db.all<Pick<PersonRow, 'id'> & { name: string; section: string }>(
				`SELECT person.id, given_name || ' ' || family_name AS name, coalesce(section.name, '') AS section
				FROM person LEFT JOIN dispatch_student ON dispatch_id = $id AND student_id = person.id
				LEFT JOIN section ON section.id = section_id
				WHERE person.id IN (SELECT value FROM json_each($ids))`,
				{ id: dispatchId, ids: JSON.stringify(left.map((s) => s.studentId)) }
			)
		).map((s) => [s.id, s])
	);
	return left
		.map((s) => ({
			studentId: s.studentId,
			kind: s.kind,
			name: students.get(s.studentId)?.name ?? '',
			section: students.get(s.studentId)?.section ?? '',
			why: whyLeft(s, (id) => names.get(id) ?? '', lines)
		}))
		.sort(
			(a, b) =>
				a.kind.localeCompare(b.kind) ||
				a.section.localeCompare(b.section, 'en', { numeric: true }) ||
				a.name.localeCompare(b.name)
		);
}
