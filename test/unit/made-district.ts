import { makeDistrict } from '../../demo/district';
import type { DistrictRows } from '../../demo/rows';
import type { RosterRows } from '../../src/lib/core/roster/types';

/** The made-up district of the demo as the core takes it: one district for the tests of core and server. */
export interface MadeDistrict {
	/** As tables take them. */
	readonly rows: DistrictRows;
	/** The same as the core takes them. */
	readonly roster: RosterRows;
}

/** Makes the district of a seed. */
export function madeDistrict(seed: number): MadeDistrict {
	const { rows } = makeDistrict(seed);
	const schoolOf = new Map(rows.course.map(([id, schoolId]) => [id, schoolId]));
	const roster: RosterRows = {
		people: rows.person.map(
			([id, kind, givenName, familyName, language, schoolId, gradeLevel, inbox]) => ({
				id,
				kind,
				givenName,
				familyName,
				language,
				schoolId,
				gradeLevel,
				hasInbox: inbox === 1
			})
		),
		addresses: rows.address.map(([id, personId, way, value, consent]) => ({
			id,
			personId,
			way,
			value,
			consent,
			failing: null
		})),
		contacts: rows.contact.map(([studentId, personId, relation, g, c, k, e]) => ({
			studentId,
			personId,
			relation,
			guardian: g === 1,
			custody: c === 1,
			correspondence: k === 1,
			emergency: e === 1
		})),
		sections: rows.section.map(([id, courseId, termId, name]) => ({
			id,
			courseId,
			termId,
			name,
			schoolId: schoolOf.get(courseId)!
		})),
		enrolments: rows.enrolment.map(([sectionId, studentId]) => ({ sectionId, studentId })),
		sectionStaff: rows.section_staff.map(([sectionId, personId]) => ({ sectionId, personId })),
		groupMembers: rows.group_member.map(([groupId, personId]) => ({ groupId, personId })),
		householdMembers: rows.household_member.map(([householdId, personId]) => ({
			householdId,
			personId
		})),
		staffRoles: rows.staff.map(([personId, schoolId, role]) => ({ personId, schoolId, role })),
		declined: rows.declined.map(([personId, kind, way]) => ({ personId, kind, way })),
		ownTimes: []
	};
	return { rows, roster };
}
