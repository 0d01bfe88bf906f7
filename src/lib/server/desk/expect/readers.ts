import type { Reader } from '../../../core/track/expect/past-copy';
import { readMany } from '../../db/many';
import type { Query } from '../../db/open';

/** Who people are as readers: those named (a JSON list of ids), with all who live with them; everybody on file where none is named. */
export async function readersOf(
	db: Query,
	ids: readonly number[] | 'all'
): Promise<Map<number, Reader>> {
	const those =
		ids === 'all'
			? 'gone_at IS NULL'
			: `id IN (SELECT value FROM json_each($ids)) OR id IN (SELECT other.person_id FROM household_member AS mine
				JOIN household_member AS other ON other.household_id = mine.household_id
				WHERE mine.person_id IN (SELECT value FROM json_each($ids)))`;
	return new Map(
		await readMany(
			db,
			'id, household, school, language',
			`FROM (SELECT id, language,
				(SELECT min(household_id) FROM household_member WHERE person_id = person.id) AS household,
				coalesce(school_id, (SELECT min(student.school_id) FROM contact JOIN person AS student ON student.id = student_id
					WHERE contact.person_id = person.id)) AS school
				FROM person WHERE ${those})`,
			([id, householdId, schoolId, language]) =>
				[id as number, { householdId, schoolId, language } as Reader] as const,
			ids === 'all' ? {} : { ids: JSON.stringify(ids) }
		)
	);
}
