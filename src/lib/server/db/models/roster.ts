import type { MarkerKind } from '../../../core/roster/marker';
import type { Address, DispatchKind, Person } from '../../../core/roster/types';
import type { ConsentHow } from '../../../core/roster/consent';
import type { Slot } from '../../../core/roster/things';
import type { WayOut } from '../../../core/roster/way';
import { day, flag, instant, json, text, whole } from './column';
import { table, type Row } from './table';

/**
 * Since when a row is here, and since when it is gone; {@link knownAs} has its names elsewhere. Nothing
 * that a dispatch may name is deleted: who has gone keeps log and evidence.
 */
const stay = {
	since: instant().orNull(),
	goneAt: instant().orNull()
};

export const school = table('school', 'A school of the district.', {
	id: whole().numbered(),
	name: text(),
	shortName: text()
});
export const term = table('term', 'A term; its last day is not in it.', {
	id: whole().numbered(),
	name: text(),
	startsOn: day(),
	endsOn: day()
});
export const course = table('course', 'A course of a school, held in sections.', {
	id: whole().numbered(),
	schoolId: whole().of('school'),
	code: text(),
	title: text()
});
export const section = table('section', 'A class section: one course, one term, one name.', {
	id: whole().numbered(),
	courseId: whole().of('course'),
	termId: whole().of('term'),
	name: text(),
	period: text(),
	...stay
});
export const person = table(
	'person',
	'A student, or an adult of any part: the rows that tie them say which.',
	{
		id: whole().numbered(),
		kind: text<Person['kind']>(),
		givenName: text(),
		familyName: text(),
		language: text(),
		schoolId: whole().of('school').orNull(),
		gradeLevel: text().orNull(),
		hasInbox: flag(),
		...stay,
		/** The district's own number for this person, by which several lists name them. */
		identifier: text().orNull(),
		/** Whom they have turned out to be. */
		sameAs: whole().of('person').orNull()
	}
);
export const madeOne = table(
	'made_one',
	'Two people on file who are one: what was done to make them so, and whether it was taken back.',
	{
		id: whole().neverTwice(),
		keptId: whole().of('person'),
		otherId: whole().of('person'),
		at: instant(),
		byId: whole().of('person'),
		/** What was done to rows. */
		work: json(),
		backAt: instant().orNull(),
		backBy: whole().of('person').orNull()
	}
);
export const household = table(
	'household',
	'People who live together; a student of two homes is in both.',
	{
		id: whole().numbered(),
		name: text(),
		...stay
	}
);
export const householdMember = table('household_member', 'Who lives in a household.', {
	householdId: whole().key().of('household'),
	personId: whole().key().of('person')
});
export const contact = table('contact', 'One adult in relation to one student.', {
	studentId: whole().key().of('person'),
	personId: whole().key().of('person'),
	relation: text(),
	guardian: flag(),
	/** Nothing where nobody has said it yet. */
	custody: flag().orNull(),
	correspondence: flag(),
	emergency: flag(),
	...stay
});
export const address = table(
	'address',
	'An email address or phone number of a person, with consent and what ails it.',
	{
		id: whole().numbered(),
		personId: whole().of('person'),
		way: text<WayOut>(),
		value: text(),
		consent: text<Address['consent']>(),
		failing: text().orNull(),
		failingSince: instant().orNull(),
		slot: text<Slot>().orNull(),
		/** Since when consent is as it is, how it came, and the words of whoever wrote it down. */
		consentAt: instant().orNull(),
		consentHow: text<ConsentHow>().orNull(),
		consentSaid: text().orNull()
	}
);
export const mended = table(
	'mended',
	'An address that failed and was put right: by whom, from what to what.',
	{
		id: whole().numbered(),
		addressId: whole().of('address', 'CASCADE'),
		at: instant(),
		byId: whole().of('person'),
		before: text(),
		after: text()
	}
);
export const enrolment = table('enrolment', 'A student in a section.', {
	sectionId: whole().key().of('section'),
	studentId: whole().key().of('person'),
	...stay
});
export const sectionStaff = table('section_staff', 'Who teaches or looks after a section.', {
	sectionId: whole().key().of('section'),
	personId: whole().key().of('person')
});
export const staff = table(
	'staff',
	'What someone does for a school, or for the district: who staff audiences are made of.',
	{
		personId: whole().of('person'),
		schoolId: whole().of('school').orNull(),
		role: text()
	}
);
export const schoolGroup = table('school_group', 'A group: house, team, choir, ferry run.', {
	id: whole().numbered(),
	name: text(),
	kind: text(),
	schoolId: whole().of('school').orNull(),
	/** Nobody, where it was here before groups were made by hand. */
	madeBy: whole().of('person').orNull(),
	madeAt: instant().orNull(),
	goneAt: instant().orNull(),
	/** By which people join it; none where it is not open. */
	code: text().orNull(),
	/** What the code is found by: the same for codes that look alike. */
	codeKey: text().orNull(),
	/** The last day on which it is open; none where it stays so. */
	openUntil: day().orNull()
});
/** How a member came into a group: put in by hand, with an audience, with a list. */
export type GroupHow = 'hand' | 'audience' | 'list';
export const groupMember = table('group_member', 'A student in a group.', {
	groupId: whole().key().of('school_group'),
	personId: whole().key().of('person'),
	how: text<GroupHow>().orNull(),
	since: instant().orNull(),
	byId: whole().of('person').orNull()
});
export const marker = table('marker', 'A fact that is kept of students: slip returned, fee paid.', {
	id: whole().neverTwice(),
	name: text(),
	kind: text<MarkerKind>(),
	/** None, where it is the whole district's. */
	schoolId: whole().of('school').orNull(),
	/** It ends with this term; none, where it stays. */
	termId: whole().of('term').orNull(),
	madeBy: whole().of('person'),
	madeAt: instant(),
	goneAt: instant().orNull(),
	/** Goes up with each change of what it says of anybody. */
	version: whole().usually(0)
});
/** How a student came to have a marker or to lack it. */
export type MarkHow = 'hand' | 'list';
export const marked = table('marked', 'What a marker says of a student.', {
	markerId: whole().key().of('marker'),
	studentId: whole().key().of('person'),
	/** "yes", a day or words; nothing where they lack it. */
	value: text().orNull(),
	how: text<MarkHow>(),
	since: instant(),
	byId: whole().of('person'),
	/** What a list said last, whatever a hand has set since. */
	listed: text().orNull()
});
export const declined = table(
	'declined',
	'A person’s own choice: nothing of this kind by this way.',
	{
		personId: whole().key().of('person'),
		kind: text<DispatchKind>().key(),
		way: text<'email' | 'inbox'>().key()
	}
);
export const ownTime = table(
	'own_time',
	'A person’s own zone and quiet hours, where they differ from the district’s, and when the letters of a day come in one.',
	{
		personId: whole().key().of('person'),
		zone: text().orNull(),
		quietFrom: whole().orNull(),
		quietTo: whole().orNull(),
		/** Minutes after local midnight. */
		digestAt: whole().orNull()
	}
);
export const rosterChange = table(
	'roster_change',
	'What a process that holds the roster in memory has to read again.',
	{
		version: whole().neverTwice(),
		personId: whole().orNull()
	}
);

export type SchoolRow = Row<typeof school>;
export type TermRow = Row<typeof term>;
export type CourseRow = Row<typeof course>;
export type SectionRow = Row<typeof section>;
export type PersonRow = Row<typeof person>;
export type HouseholdRow = Row<typeof household>;
export type HouseholdMemberRow = Row<typeof householdMember>;
export type ContactRow = Row<typeof contact>;
export type AddressRow = Row<typeof address>;
export type EnrolmentRow = Row<typeof enrolment>;
export type SectionStaffRow = Row<typeof sectionStaff>;
export type StaffRow = Row<typeof staff>;
export type SchoolGroupRow = Row<typeof schoolGroup>;
export type MarkerRow = Row<typeof marker>;
export type MarkedRow = Row<typeof marked>;
export type DeclinedRow = Row<typeof declined>;
export type OwnTimeRow = Row<typeof ownTime>;
export type RosterChangeRow = Row<typeof rosterChange>;
