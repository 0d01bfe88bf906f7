import { nameOfLanguage } from '../../../core/copy/language';
import { isAllowed, scope } from '../../access/may';
import type { User } from '../../access/user';
import type { Db } from '../../db/open';
import type { BesideEachOther } from './types';

/** Two people side by side, to be told whether they are one; null where the user may not see both. */
export async function twoPeople(
	db: Db,
	user: User,
	ids: readonly [number, number]
): Promise<readonly [BesideEachOther, BesideEachOther] | null> {
	if (!isAllowed(user, 'correct-people')) return null;
	const seen = scope(user).people('person.id', 'look-after');
	const lines = (sql: string) => `coalesce((SELECT json_group_array(line) FROM (${sql})), '[]')`;
	const rows = await db.all<
		Record<'addresses' | 'ties' | 'homes' | 'sources', string> &
			Omit<BesideEachOther, 'addresses' | 'ties' | 'homes' | 'sources'>
	>(
		`SELECT person.id, kind, given_name || ' ' || family_name AS name, language, coalesce(identifier, '') AS identifier,
			coalesce('Grade ' || grade_level, '') AS grade,
			${lines(`SELECT value AS line FROM address WHERE person_id = person.id ORDER BY way, id`)} AS addresses,
			${lines(`SELECT relation || ' of ' || student.given_name || ' ' || student.family_name AS line
				FROM contact_now AS contact JOIN person AS student ON student.id = student_id WHERE contact.person_id = person.id
				UNION ALL SELECT relation || ': ' || adult.given_name || ' ' || adult.family_name
				FROM contact_now AS contact JOIN person AS adult ON adult.id = contact.person_id WHERE student_id = person.id`)} AS ties,
			${lines(`SELECT DISTINCT other.given_name || ' ' || other.family_name AS line FROM household_member AS mine
				JOIN household_member AS theirs ON theirs.household_id = mine.household_id AND theirs.person_id != person.id
				JOIN person AS other ON other.id = theirs.person_id WHERE mine.person_id = person.id`)} AS homes,
			${lines(`SELECT DISTINCT name AS line FROM known_as JOIN roster_source ON roster_source.id = source_id
				WHERE known_as.kind = 'person' AND row_id = person.id`)} AS sources,
			(SELECT count(DISTINCT dispatch_id) FROM delivery WHERE person_id = person.id) AS dispatches
		FROM person_now AS person WHERE person.id IN ($one, $other) AND ${seen.sql}`,
		{ one: ids[0], other: ids[1], ...seen.bind }
	);
	const list = (json: string) => JSON.parse(json) as string[];
	const [one, other] = ids.map((id) => rows.find((r) => r.id === id));
	if (!one || !other) return null;
	const made = (row: (typeof rows)[number]): BesideEachOther => ({
		...row,
		language: nameOfLanguage(row.language),
		addresses: list(row.addresses),
		ties: list(row.ties),
		homes: list(row.homes),
		sources: list(row.sources)
	});
	return [made(one), made(other)];
}
