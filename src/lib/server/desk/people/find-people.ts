import { studentsAllowed } from '../../access/allowed';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { found } from '../../db/search';
import type { Db } from '../../db/open';
import type { FoundPerson } from './types';

/** How many a search shows at most. */
const most = 12;

/**
 * Finds people by the beginnings of their names, in any order of words: to be written to, where only
 * the district office looks through everyone and others find their own students; or among all that
 * the user may see.
 */
export async function findPeople(
	db: Db,
	user: User,
	search: string,
	among: 'anyone' | 'students' | 'seen' = 'anyone'
): Promise<FoundPerson[]> {
	const by = found(search, ['person.id', 'person_words']);
	if (!by) return [];
	const seen = among === 'seen' ? scope(user).people('person.id') : null;
	const own = among === 'seen' ? null : await studentsAllowed(db, user);
	if (own !== null && among !== 'students') return [];
	return db.all<FoundPerson>(
		`SELECT person.id AS personId, given_name || ' ' || family_name AS name,
			CASE WHEN kind = 'student' THEN 'Grade ' || grade_level || ', ' || school.short_name
			ELSE coalesce(
				(SELECT group_concat(DISTINCT relation) || ' of ' || group_concat(student.given_name, ', ')
					FROM contact_now AS contact JOIN person AS student ON student.id = student_id WHERE contact.person_id = person.id),
				(SELECT role FROM staff WHERE staff.person_id = person.id), '') END AS note
		FROM person LEFT JOIN school ON school.id = person.school_id
		WHERE ${by.sql} ${among === 'students' ? `AND kind = 'student'` : ''} ${among === 'seen' ? '' : 'AND person.gone_at IS NULL'}
			${own ? 'AND person.id IN (SELECT value FROM json_each($own))' : ''} ${seen ? `AND ${seen.sql}` : ''} ORDER BY family_name, given_name LIMIT ${most}`,
		{ ...by.bind, ...seen?.bind, ...(own ? { own: JSON.stringify(own) } : {}) }
	);
}

/** Finds staff by the beginnings of their names: whoever writes may let a colleague have a copy. */
export async function findStaff(db: Db, search: string): Promise<FoundPerson[]> {
	const by = found(search, ['person.id', 'person_words']);
	if (!by) return [];
	return db.all<FoundPerson>(
		`SELECT person.id AS personId, given_name || ' ' || family_name AS name,
			group_concat(role || coalesce(', ' || short_name, ''), '; ') AS note
		FROM staff JOIN person_now AS person ON person.id = person_id LEFT JOIN school ON school.id = staff.school_id
		WHERE ${by.sql} GROUP BY person.id ORDER BY family_name, given_name LIMIT ${most}`,
		by.bind
	);
}
