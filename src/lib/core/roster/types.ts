/**
 * The roster: who is at the schools and how they belong together. Terms follow 1EdTech OneRoster
 * (school, term, course, section, enrolment); a *contact* ties an adult to a student.
 * Every id is the database's integer key; every value is immutable.
 */
import type { DigestMinute } from '../time/digest';
import type { QuietHours } from '../time/quiet';
import type { WayOut } from './way';

export interface Person {
	readonly id: number;
	/** A student, or anyone else: guardian, other contact, staff. An adult's part is told by the rows that tie them. */
	readonly kind: 'student' | 'adult';
	readonly givenName: string;
	readonly familyName: string;
	/** BCP 47 tag of the language this person wants to read. */
	readonly language: string;
	readonly schoolId: number | null;
	readonly gradeLevel: string | null;
	/** Whether the person has an account for the inbox. */
	readonly hasInbox: boolean;
	/** The district's own number for this person, where one is known. */
	readonly identifier?: string | null;
}

/** An email address or a phone number of one person. Two people may have the same value (a shared mailbox). */
export interface Address {
	readonly id: number;
	readonly personId: number;
	readonly way: WayOut;
	/** Email as written; phone as on file. */
	readonly value: string;
	/** Consent for texts, preference for email. `unknown` is not consent. */
	readonly consent: 'in' | 'out' | 'unknown';
	/** Why the address cannot be used, in plain words, or null while it works. */
	readonly failing: string | null;
}

/** One adult in relation to one student. */
export interface Contact {
	readonly studentId: number;
	readonly personId: number;
	/** The relation in plain words: mother, father, grandmother, neighbour. */
	readonly relation: string;
	readonly guardian: boolean;
	/** Null where nobody has said it yet. */
	readonly custody: boolean | null;
	/** Marked to receive correspondence. */
	readonly correspondence: boolean;
	readonly emergency: boolean;
}

export interface Section {
	readonly id: number;
	readonly courseId: number;
	readonly schoolId: number;
	readonly termId: number;
	/** As people say it: "Boatbuilding 1-A". */
	readonly name: string;
}

export interface Enrolment {
	readonly sectionId: number;
	readonly studentId: number;
}

/** Who teaches or otherwise looks after a section. */
export interface SectionStaff {
	readonly sectionId: number;
	readonly personId: number;
}

/** A student in a group: house, team, choir, ferry run. */
export interface GroupMember {
	readonly groupId: number;
	readonly personId: number;
}

/** A household and one who lives there. A student of two homes is in both. */
export interface HouseholdMember {
	readonly householdId: number;
	readonly personId: number;
}

/** What someone does for a school, or for the district where `schoolId` is null. */
export interface StaffRole {
	readonly personId: number;
	readonly schoolId: number | null;
	readonly role: string;
}

/** A person's own choice: no messages of this kind by this way. Texts go by consent instead. */
export interface Declined {
	readonly personId: number;
	readonly kind: DispatchKind;
	readonly way: 'email' | 'inbox';
}

/** When one person wants nothing ordinary, when they get the letters of a day in one, and by which clock; null where it is as for everyone. */
export interface OwnTime {
	readonly personId: number;
	/** IANA name. */
	readonly zone: string | null;
	readonly quiet: QuietHours | null;
	/** Null for whoever gets each letter when it leaves. */
	readonly digest: DigestMinute | null;
}

/** An announcement is one-way; a message can be answered. */
export const dispatchKinds = ['announcement', 'message'] as const;
export type DispatchKind = (typeof dispatchKinds)[number];

/** What the database hands over; {@link makeRoster} indexes it. */
export interface RosterRows {
	readonly people: readonly Person[];
	readonly addresses: readonly Address[];
	readonly contacts: readonly Contact[];
	readonly sections: readonly Section[];
	readonly enrolments: readonly Enrolment[];
	readonly sectionStaff: readonly SectionStaff[];
	readonly groupMembers: readonly GroupMember[];
	readonly householdMembers: readonly HouseholdMember[];
	readonly staffRoles: readonly StaffRole[];
	readonly declined: readonly Declined[];
	readonly ownTimes: readonly OwnTime[];
}
