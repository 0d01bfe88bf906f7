import { readDistrict } from '../../db/district';
import { toE164 } from '../../../core/format/phone';
import { fold } from '../../../core/format/fold';
import type { PersonRow } from '../../db/models/roster';
import { found } from '../../db/search';
import { textAddressesOf } from '../../db/text-addresses';
import type { Hand } from './by-hand';
import type { Alike } from './types';

const most = 6;

/**
 * Who on file may be the person that somebody is about to add: the same name, and the same address or
 * number, or for a student the same school. Whoever the user may not see is not among them.
 */
export async function alike(
	hand: Hand,
	person: Pick<PersonRow, 'givenName' | 'familyName' | 'kind' | 'schoolId'> & {
		readonly email: string;
		readonly number: string;
	}
): Promise<readonly Alike[]> {
	const name = `${person.givenName} ${person.familyName}`.trim();
	const by = found(name, ['person.id', 'person_words']);
	if (!by) return [];
	const number = toE164(person.number, (await readDistrict(hand.tx)).country);
	const sharers = number === null ? [] : await textAddressesOf(hand.tx, number);
	const rows = await hand.tx.all<Alike>(
		`SELECT person.id AS personId, given_name || ' ' || family_name AS name,
			CASE WHEN kind = 'student' THEN 'Grade ' || grade_level || coalesce(', ' || school.name, '')
			ELSE coalesce((SELECT group_concat(DISTINCT relation) || ' of ' || group_concat(DISTINCT student.given_name)
				FROM contact_now AS contact JOIN person AS student ON student.id = student_id
				WHERE contact.person_id = person.id), '') END AS note
		FROM person_now AS person LEFT JOIN school ON school.id = person.school_id
		WHERE ${by.sql} AND kind = $kind AND (kind = 'student' AND person.school_id = $school
			OR EXISTS (SELECT 1 FROM address WHERE person_id = person.id AND way = 'email' AND value = $email COLLATE NOCASE)
			OR person.id IN (SELECT value FROM json_each($sharers)))
		ORDER BY person.id LIMIT 40`,
		{
			...by.bind,
			kind: person.kind,
			school: person.schoolId,
			email: person.email,
			sharers: JSON.stringify(sharers.map((s) => s.personId))
		}
	);
	return rows.filter((row) => fold(row.name) === fold(name)).slice(0, most);
}
