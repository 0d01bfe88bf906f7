import type { Query } from '../db/open';
import { may, scope } from './may';
import type { User } from './user';
import type { EnrolmentRow, PersonRow, SectionRow } from '../db/models/roster';

/** The schools whose staff a user may write to, or null for all of them. */
export function staffSchools(user: User): number[] | null {
	if (may(user, 'speak-for-district')) return null;
	return !may(user, 'see-others') || user.schoolId === null ? [] : [user.schoolId];
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

/** The students a user may write to, or null for all of them. A teacher's are those of own sections, an office's those of its school. */
export async function studentsAllowed(db: Query, user: User): Promise<number[] | null> {
	if (may(user, 'speak-for-district')) return null;
	const rows = may(user, 'see-others')
		? await db.all<Pick<PersonRow, 'id'>>(
				`SELECT id FROM person_now WHERE kind = 'student' AND school_id = $school`,
				{ school: user.schoolId }
			)
		: await db.all<{ id: EnrolmentRow['studentId'] }>(
				`SELECT DISTINCT student_id AS id FROM enrolment_now
				JOIN section_staff USING (section_id) WHERE person_id = $user`,
				{ user: user.personId }
			);
	return rows.map((r) => r.id);
}
