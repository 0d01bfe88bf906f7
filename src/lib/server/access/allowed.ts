import type { Query } from '../db/open';
import { scope } from './may';
import { whereOf, type Right, type User } from './rights';
import type { EnrolmentRow, PersonRow, SectionRow } from '../db/models/roster';

/** The schools whose staff a user may write to, or null for all of them. */
export function staffSchools(user: User): readonly number[] | null {
	const { whole, schools } = whereOf(user, 'write');
	return whole ? null : schools;
}

/** Of some sections, those the user may not write to, and those that do not exist (any more). */
export async function sectionsRefused(
	db: Query,
	user: User,
	sectionIds: readonly number[]
): Promise<{ forbidden: { id: number; name: string }[]; missing: number[] }> {
	const { sql, bind } = scope(user).sections;
	const found = await db.all<Pick<SectionRow, 'id' | 'name'> & { allowed: number }>(
		`SELECT section.id, section.name, (${sql}) AS allowed
		FROM section JOIN course ON course.id = course_id
		WHERE section.id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify(sectionIds), ...bind }
	);
	const known = new Set(found.map((s) => s.id));
	return {
		forbidden: found.filter((s) => s.allowed !== 1).map(({ id, name }) => ({ id, name })),
		missing: sectionIds.filter((id) => !known.has(id))
	};
}

/**
 * The students for whom a user has a right, or null for all of them: those of schools, of the sections the roster
 * says they teach, and of sections that are named.
 */
export async function studentsAllowed(
	db: Query,
	user: User,
	right: Right = 'write'
): Promise<number[] | null> {
	const { whole, schools, sections, own } = whereOf(user, right);
	if (whole) return null;
	const ids = new Set<number>();
	if (schools.length > 0) {
		const rows = await db.all<Pick<PersonRow, 'id'>>(
			`SELECT id FROM person_now WHERE kind = 'student' AND school_id IN (SELECT value FROM json_each($schools))`,
			{ schools: JSON.stringify(schools) }
		);
		for (const { id } of rows) ids.add(id);
	}
	if (own || sections.length > 0) {
		const rows = await db.all<{ id: EnrolmentRow['studentId'] }>(
			`SELECT DISTINCT student_id AS id FROM enrolment_now WHERE section_id IN (SELECT value FROM json_each($sections)
				UNION SELECT section_id FROM section_staff WHERE person_id = $user AND $own)`,
			{ sections: JSON.stringify(sections), user: user.personId, own: own ? 1 : 0 }
		);
		for (const { id } of rows) ids.add(id);
	}
	return [...ids];
}

/** How many of some students, whom a user may write to, another right does not hold for. */
export async function studentsBeyond(
	db: Query,
	user: User,
	right: Right,
	students: readonly number[]
): Promise<number> {
	if (JSON.stringify(whereOf(user, right)) === JSON.stringify(whereOf(user, 'write'))) return 0;
	const allowed = await studentsAllowed(db, user, right);
	if (allowed === null) return 0;
	const set = new Set(allowed);
	return students.filter((id) => !set.has(id)).length;
}
