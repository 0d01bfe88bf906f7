import { addressCondition, rightsBind } from '../access/rights';
import type { User } from '../access/sessions';
import type { Db } from '../db/open';

/** An address that does not work. */
export interface FailingAddress {
	readonly id: number;
	readonly person: string;
	readonly way: 'email' | 'text';
	readonly value: string;
	readonly why: string;
	/** Instant, ms. */
	readonly since: number;
	/** Given names of this person's students, joined. */
	readonly students: string;
}

/** The addresses to mend that a user may see, those that failed last on top. */
export function failingAddresses(db: Db, user: User): Promise<FailingAddress[]> {
	const condition = addressCondition(user);
	return db.all<FailingAddress>(
		`SELECT address.id, given_name || ' ' || family_name AS person, way, value, failing AS why,
			failing_since AS since,
			coalesce((SELECT group_concat(given_name, ', ') FROM contact
				JOIN person AS student ON student.id = student_id
				WHERE contact.person_id = address.person_id), '') AS students
		FROM address JOIN person ON person.id = person_id
		WHERE failing IS NOT NULL AND ${condition} ORDER BY failing_since DESC, family_name LIMIT 500`,
		rightsBind(user, condition)
	);
}
