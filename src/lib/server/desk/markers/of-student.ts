import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { markerStands } from '../../db/markers';
import type { Db } from '../../db/open';
import type { StudentMark } from './types';

/** What the markers that a user can use say of a student of theirs, by name. */
export async function marksOfStudent(
	db: Db,
	user: User,
	studentId: number
): Promise<StudentMark[]> {
	const [mine, stands] = [scope(user).markers, await markerStands(db)];
	const seen = scope(user).people('marked.student_id');
	return db.all<StudentMark>(
		`SELECT marker.id, marker.name, value, marked.since, how, given_name || ' ' || family_name AS "by"
		FROM marked JOIN marker ON marker.id = marker_id JOIN person ON person.id = marked.by_id
		WHERE student_id = $studentId AND value IS NOT NULL AND ${mine.sql} AND ${stands.sql} AND ${seen.sql}
		ORDER BY marker.name, marker.id LIMIT 200`,
		{ studentId, ...mine.bind, ...stands.bind, ...seen.bind }
	);
}
