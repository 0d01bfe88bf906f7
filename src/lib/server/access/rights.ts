import type { Query } from '../db/open';
import type { User } from './sessions';

/** Who acts for the whole district: all that is sent or made in it is theirs to see and to handle. */
export const actsForDistrict = (user: User): boolean => user.role === 'coordinator';

/** Who has own sections only, and what is sent by oneself; an office has a school's. */
export const hasOwnOnly = (user: User): boolean => user.role === 'teacher';

/** Who puts failing addresses right: an office. A teacher sees them, the office asks the family. */
export const mayMend = (user: User): boolean => !hasOwnOnly(user);

/** The SQL condition on `section` (joined with `course`) for the sections a user may write to, with `$user` and `$school` bound by {@link rightsBind}. */
export function sectionCondition(user: User): string {
	switch (user.role) {
		case 'coordinator':
			return '1';
		case 'office':
		case 'principal':
			return 'course.school_id = $school';
		case 'teacher':
			return 'section.id IN (SELECT section_id FROM section_staff WHERE person_id = $user)';
	}
}

/** The SQL condition on `dispatch` for what a user may see: a teacher their own, an office those of its school, the coordinator all; a draft is its writer's only. */
export function dispatchCondition(user: User): string {
	switch (user.role) {
		case 'coordinator':
			return `(dispatch.sender_id = $user OR dispatch.state != 'draft')`;
		case 'office':
		case 'principal':
			return `(dispatch.sender_id = $user OR (dispatch.school_id = $school AND dispatch.state != 'draft'))`;
		case 'teacher':
			return 'dispatch.sender_id = $user';
	}
}

/** The SQL condition on `kept_audience` for those a user may use: their own, the coordinator all. */
export const keptCondition = (user: User): string =>
	user.role === 'coordinator' ? '1' : 'kept_audience.made_by = $user';

/** The schools whose staff a user may write to, or null for all of them. */
export const staffSchools = (user: User): number[] | null =>
	user.role === 'coordinator'
		? null
		: user.role === 'teacher' || user.schoolId === null
			? []
			: [user.schoolId];

/** Only what a condition names may be bound: Sequelize refuses a bind that is not used. */
export function rightsBind(user: User, condition: string): Record<string, number | null> {
	return {
		...(condition.includes('$user') ? { user: user.personId } : {}),
		...(condition.includes('$school') ? { school: user.schoolId } : {})
	};
}

/** Of some sections, those the user may not write to, and those that do not exist (any more). */
export async function sectionsRefused(
	db: Query,
	user: User,
	sectionIds: readonly number[]
): Promise<{ forbidden: { id: number; name: string }[]; missing: number[] }> {
	const condition = sectionCondition(user);
	const found = await db.all<{ id: number; name: string; allowed: number }>(
		`SELECT section.id, section.name, (${condition}) AS allowed
		FROM section JOIN course ON course.id = course_id
		WHERE section.id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify(sectionIds), ...rightsBind(user, condition) }
	);
	const known = new Set(found.map((s) => s.id));
	return {
		forbidden: found.filter((s) => s.allowed !== 1).map(({ id, name }) => ({ id, name })),
		missing: sectionIds.filter((id) => !known.has(id))
	};
}

/** The students a user may write to, or null for all of them. A teacher's are those of own sections, an office's those of its school. */
export async function studentsAllowed(db: Query, user: User): Promise<number[] | null> {
	if (user.role === 'coordinator') return null;
	const rows =
		user.role === 'teacher'
			? await db.all<{ id: number }>(
					`SELECT DISTINCT student_id AS id FROM enrolment
					JOIN section_staff USING (section_id) WHERE person_id = $user`,
					{ user: user.personId }
				)
			: await db.all<{ id: number }>(
					`SELECT id FROM person WHERE kind = 'student' AND school_id = $school`,
					{
						school: user.schoolId
					}
				);
	return rows.map((r) => r.id);
}

/** The SQL condition on a column of person ids for the people a user may see: an office those of its school, their families and staff; a teacher own students and their families. */
export function peopleCondition(user: User, column: string): string {
	switch (user.role) {
		case 'coordinator':
			return '1';
		case 'office':
		case 'principal':
			return `${column} IN (SELECT person_id FROM contact
					JOIN person AS student ON student.id = student_id WHERE student.school_id = $school
				UNION SELECT id FROM person WHERE school_id = $school
				UNION SELECT person_id FROM staff WHERE school_id = $school)`;
		case 'teacher':
			return `${column} IN (SELECT contact.person_id FROM contact
					JOIN enrolment USING (student_id) JOIN section_staff USING (section_id)
					WHERE section_staff.person_id = $user
				UNION SELECT student_id FROM enrolment JOIN section_staff USING (section_id)
					WHERE section_staff.person_id = $user)`;
	}
}

/** The SQL condition on `address` for those a user may see. */
export const addressCondition = (user: User): string => peopleCondition(user, 'address.person_id');

/** Who may send urgently, past quiet hours: a right of its own. */
export const mayUrgent = (user: User): boolean =>
	user.role === 'coordinator' || user.role === 'principal';

/** Who looks after the running of the whole: the courier, a database that was put back. */
export const mayOperate = (user: User): boolean => user.role === 'coordinator';

/** Who closes a school, or opens it again; null stands for all of them. */
export const mayClose = (user: User, schoolId: number | null): boolean =>
	user.role === 'coordinator' ||
	(user.role !== 'teacher' && schoolId !== null && schoolId === user.schoolId);

/** Who may do something with a dispatch or an event: whoever sent or made it, and the district office. */
export const mayHandle = (user: User, byId: number): boolean =>
	byId === user.personId || actsForDistrict(user);

/** Who gives a family a link to its inbox, on paper: an office, never a teacher, since it opens every letter. */
export const mayGiveLink = (user: User): boolean =>
	user.role === 'coordinator' || user.role === 'office';

/** Who brings a calendar file in: it speaks for the whole district. */
export const mayImportCalendar = (user: User): boolean => user.role === 'coordinator';
