import type { Query } from '../../db/open';

/**
 * In which language a student's family wants to be written to: that of the adults the copies go to, or of
 * those left out where nobody gets one; as BCP 47 tags with a comma between, where they differ.
 */
export async function languagesOf(db: Query, id: number): Promise<Map<number, string>> {
	const rows = await db.all<{ studentId: number; languages: string }>(
		`WITH reader(student_id, language) AS (
			SELECT student_id, language FROM delivery_student JOIN delivery ON delivery.id = delivery_id
				JOIN person ON person.id = person_id AND kind = 'adult' WHERE dispatch_id = $id
			UNION SELECT student_id, language FROM delivery_student
				JOIN delivery_also USING (delivery_id) JOIN delivery ON delivery.id = delivery_id
				JOIN person ON person.id = delivery_also.person_id AND kind = 'adult' WHERE dispatch_id = $id),
		missed(student_id, language) AS (
			SELECT student_id, language FROM left_out JOIN left_out_student ON left_out_id = left_out.id
				JOIN person ON person.id = person_id AND kind = 'adult' WHERE dispatch_id = $id)
		SELECT student_id AS studentId, group_concat(DISTINCT language) AS languages FROM reader GROUP BY 1
		UNION ALL SELECT student_id, group_concat(DISTINCT language) FROM missed
			WHERE student_id NOT IN (SELECT student_id FROM reader) GROUP BY 1`,
		{ id }
	);
	return new Map(rows.map((r) => [r.studentId, r.languages.split(',').sort().join(',')]));
}
