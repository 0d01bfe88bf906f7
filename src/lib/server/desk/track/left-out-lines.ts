import { reasonsText, type Reason } from '../../../core/audience/reasons';
import { nameList } from '../../../core/copy/names';
import type { Query } from '../../db/open';
import type { LeftOutLine } from './types';
import type { LeftOutRow } from '../../db/models/dispatch';
import type { PersonRow } from '../../db/models/roster';

/** The students of a row of those left out, as a JSON list of ids in their order; for SQL over `left_out`. */
export const studentIdsOfLeftOut = `(SELECT json_group_array(student_id) FROM left_out_student WHERE left_out_id = left_out.id)`;

/** Everyone left out of a dispatch with the reasons, by name; `limit` of them. */
export async function leftOutLines(
	db: Query,
	dispatchId: number,
	limit = 1_000_000,
	offset = 0
): Promise<LeftOutLine[]> {
	const rows = await db.all<
		Pick<LeftOutRow, 'id' | 'personId' | 'reached' | 'reasons'> & {
			name: string;
			studentIds: string;
		}
	>(
		`SELECT left_out.id, reached, person_id AS personId, given_name || ' ' || family_name AS name, ${studentIdsOfLeftOut} AS studentIds, reasons
		FROM left_out JOIN person ON person.id = person_id
		WHERE dispatch_id = $id ORDER BY reached, family_name, given_name, person_id, left_out.id LIMIT $limit OFFSET $offset`,
		{ id: dispatchId, limit, offset }
	);
	const ids = rows.flatMap((r) => JSON.parse(r.studentIds) as number[]);
	const students = await db.all<Pick<PersonRow, 'id'> & { name: PersonRow['givenName'] }>(
		`SELECT id, given_name AS name FROM person WHERE id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify([...new Set(ids)]) }
	);
	const nameOf = new Map(students.map((s) => [s.id, s.name]));
	return rows.map(({ id, personId, reached, name, studentIds, reasons }) => ({
		id,
		personId,
		reached: reached === 1,
		name,
		students: nameList((JSON.parse(studentIds) as number[]).map((id) => nameOf.get(id) ?? '')),
		why: reasonsText(JSON.parse(reasons) as Reason[])
	}));
}

/** How many people got no copy of a dispatch at all, and how many rows its left-out list has. */
export async function countLeftOut(
	db: Query,
	dispatchId: number
): Promise<{ people: number; rows: number }> {
	return (await db.one<{ people: number; rows: number }>(
		`SELECT count(DISTINCT CASE WHEN NOT reached THEN person_id END) AS people, count(*) AS rows
		FROM left_out WHERE dispatch_id = $id`,
		{ id: dispatchId }
	))!;
}
