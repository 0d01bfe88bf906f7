import { makeRoster } from '../../../src/lib/core/roster/roster';
import type { Address, Contact, Person, RosterRows } from '../../../src/lib/core/roster/types';

/** Short ways to write a roster down in a test. */
export const student = (id: number, givenName: string): Person => ({
	id,
	kind: 'student',
	givenName,
	familyName: 'Amaro',
	language: 'en',
	schoolId: 1,
	gradeLevel: '7',
	hasInbox: false
});
export const adult = (id: number, givenName: string, hasInbox = false): Person => ({
	id,
	kind: 'adult',
	givenName,
	familyName: 'Amaro',
	language: 'pt',
	schoolId: null,
	gradeLevel: null,
	hasInbox
});
export const guardian = (
	studentId: number,
	personId: number,
	over: Partial<Contact> = {}
): Contact => ({
	studentId,
	personId,
	relation: 'mother',
	guardian: true,
	custody: true,
	correspondence: true,
	emergency: false,
	...over
});
let addressId = 0;
export const email = (personId: number, value: string, over: Partial<Address> = {}): Address => ({
	id: (addressId += 1),
	personId,
	way: 'email',
	value,
	consent: 'unknown',
	failing: null,
	...over
});
export const phone = (
	personId: number,
	value: string,
	consent: Address['consent'] = 'in',
	failing: string | null = null
): Address => ({
	id: (addressId += 1),
	personId,
	way: 'text',
	value,
	consent,
	failing
});

/** Two children and a cousin; mother with everything, father without custody of one, aunt for emergencies. */
export const family: RosterRows = {
	people: [
		student(1, 'Ana'),
		student(2, 'Rui'),
		student(3, 'Lia'),
		adult(10, 'Delfina', true),
		adult(11, 'Paulo'),
		adult(12, 'Inês'),
		adult(13, 'Bao', true)
	],
	addresses: [
		email(10, 'home@harbormail.example'),
		phone(10, '+12075550101'),
		email(11, 'Home@harbormail.example'),
		phone(11, '+12075550102', 'unknown'),
		phone(12, '+12075550103'),
		email(13, 'bao@harbormail.example', { consent: 'out' }),
		phone(13, '+12075550104', 'out')
	],
	contacts: [
		guardian(1, 10),
		guardian(2, 10),
		guardian(1, 11, { relation: 'father' }),
		guardian(2, 11, { relation: 'father', custody: false }),
		{
			studentId: 1,
			personId: 12,
			relation: 'aunt',
			guardian: false,
			custody: false,
			correspondence: false,
			emergency: true
		},
		guardian(3, 13, { relation: 'father' })
	],
	sections: [
		{ id: 100, courseId: 1, schoolId: 1, termId: 2, name: 'Mathematics 7-A' },
		{ id: 101, courseId: 2, schoolId: 1, termId: 2, name: 'Drama 7-A' }
	],
	enrolments: [
		{ sectionId: 100, studentId: 1 },
		{ sectionId: 101, studentId: 1 },
		{ sectionId: 101, studentId: 2 },
		{ sectionId: 101, studentId: 3 }
	],
	sectionStaff: [{ sectionId: 101, personId: 14 }],
	groupMembers: [
		{ groupId: 50, personId: 2 },
		{ groupId: 50, personId: 3 }
	],
	// Mother and children in one home; the father lives in the second home of Ana alone.
	householdMembers: [
		{ householdId: 60, personId: 1 },
		{ householdId: 60, personId: 2 },
		{ householdId: 60, personId: 10 },
		{ householdId: 61, personId: 1 },
		{ householdId: 61, personId: 11 }
	],
	staffRoles: [
		{ personId: 14, schoolId: 1, role: 'teacher' },
		{ personId: 15, schoolId: 2, role: 'teacher' },
		{ personId: 16, schoolId: null, role: 'aide' }
	],
	declined: [],
	ownTimes: []
};
export const familyRoster = makeRoster(family);
