import type { Query } from '../src/lib/server/db/open';
import type { DistrictRows } from './rows';

const columns: Readonly<Record<keyof DistrictRows, string>> = {
	school: 'id, name, short_name',
	term: 'id, name, starts_on, ends_on',
	course: 'id, school_id, code, title',
	section: 'id, course_id, term_id, name, period',
	person: 'id, kind, given_name, family_name, language, school_id, grade_level, has_inbox',
	household: 'id, name',
	household_member: 'household_id, person_id',
	contact: 'student_id, person_id, relation, guardian, custody, correspondence, emergency',
	address: 'id, person_id, way, value, consent',
	enrolment: 'section_id, student_id',
	staff: 'person_id, school_id, role',
	section_staff: 'section_id, person_id',
	school_group: 'id, name, kind, school_id',
	group_member: 'group_id, person_id',
	declined: 'person_id, kind, way'
};

/** Puts the rows of a made-up district into empty tables. */
export async function putRows(tx: Query, rows: DistrictRows): Promise<void> {
	for (const [table, names] of Object.entries(columns)) {
		const values = names.split(',').map((_, i) => `value ->> ${i}`);
		await tx.run(
			`INSERT INTO ${table} (${names}) SELECT ${values.join(', ')} FROM json_each($rows)`,
			{ rows: JSON.stringify(rows[table as keyof DistrictRows]) }
		);
	}
}
