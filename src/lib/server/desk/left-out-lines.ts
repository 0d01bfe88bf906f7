import { reasonText, type Reason } from '../../core/audience/reasons';
import { nameList } from '../../core/copy/names';
import type { Query } from '../db/open';

/** A person who got no copy of a dispatch. */
export interface LeftOutLine {
	readonly personId: number;
	readonly name: string;
	/** Students they would have been written to for, as a phrase. */
	readonly students: string;
	readonly why: string;
}

/** Everyone left out of a dispatch with the reasons, by name; `limit` of them. */
export async function leftOutLines(
	db: Query,
	dispatchId: number,
	limit = 1_000_000
): Promise<LeftOutLine[]> {
	const rows = await db.all<{
		personId: number;
		name: string;
		studentIds: string;
		reasons: string;
	}>(
		`SELECT person_id AS personId, given_name || ' ' || family_name AS name, student_ids AS studentIds, reasons
		FROM left_out JOIN person ON person.id = person_id
		WHERE dispatch_id = $id ORDER BY family_name, given_name, person_id LIMIT $limit`,
		{ id: dispatchId, limit }
	);
	const ids = rows.flatMap((r) => JSON.parse(r.studentIds) as number[]);
	const students = await db.all<{ id: number; name: string }>(
		`SELECT id, given_name AS name FROM person WHERE id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify([...new Set(ids)]) }
	);
	const nameOf = new Map(students.map((s) => [s.id, s.name]));
	return rows.map(({ personId, name, studentIds, reasons }) => ({
		personId,
		name,
		students: nameList((JSON.parse(studentIds) as number[]).map((id) => nameOf.get(id) ?? '')),
		why: (JSON.parse(reasons) as Reason[]).map(reasonText).join('. ')
	}));
}
