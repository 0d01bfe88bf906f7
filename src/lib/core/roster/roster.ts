import { checkMailAddress } from '../format/mail-address';
import { keptNumber } from '../format/phone';
import type {
	Address,
	Contact,
	Declined,
	DispatchKind,
	OwnTime,
	Person,
	RosterRows,
	Section,
	StaffRole
} from './types';
import { groupBy } from '../group-by';

/** An address on file, looked at: what two spellings of it have in common, and what is wrong with it. */
export interface KnownAddress extends Address {
	/** As it is sent to: a phone in E.164. */
	readonly usable: string;
	/** The same for every spelling of one mailbox or phone. */
	readonly key: string;
	/** Why it cannot be used, in plain words: what came back from it, or what is wrong with how it is written. */
	readonly failing: string | null;
}

/** Looks an address over once, so that planning need not. */
export function knownAddress(address: Address): KnownAddress {
	if (address.way === 'email') {
		const mail = checkMailAddress(address.value);
		return mail.ok
			? { ...address, usable: mail.value, key: `email:${mail.key}` }
			: {
					...address,
					usable: address.value,
					key: `email:${address.value}`,
					failing: `not a mail address, ${mail.why}`
				};
	}
	const phone = keptNumber(address.value);
	return phone === null
		? {
				...address,
				usable: address.value,
				key: `text:${address.value}`,
				failing: `"${address.value}" is not a phone number`
			}
		: { ...address, usable: phone, key: `text:${phone}` };
}

/**
 * The roster in memory, ready for questions. Built once from rows and never changed; a changed
 * roster is a new value. All look-ups are O(1) and return an empty list for what is not there.
 */
export interface Roster {
	person(id: number): Person | undefined;
	section(id: number): Section | undefined;
	/** Students enrolled in a section, in the order of their names as the rows came. */
	studentsIn(sectionId: number): readonly number[];
	/** Every adult tied to a student, guardians or not. */
	contactsOf(studentId: number): readonly Contact[];
	addressesOf(personId: number): readonly KnownAddress[];
	/** The sections a student is enrolled in, over all terms. */
	sectionsOf(studentId: number): readonly Section[];
	sectionsOfCourse(courseId: number): readonly Section[];
	sectionsOfTerm(termId: number): readonly Section[];
	studentsOfSchool(schoolId: number): readonly number[];
	studentsOfGrade(gradeLevel: string): readonly number[];
	studentsOfGroup(groupId: number): readonly number[];
	staffOf(sectionId: number): readonly number[];
	/** The sections that somebody looks after, over all terms. */
	sectionsTaughtBy(personId: number): readonly number[];
	/** Households a person lives in; a student of two homes has two. */
	householdsOf(personId: number): readonly number[];
	/** Everyone on the staff, with what they do where. */
	staffRoles(): readonly StaffRole[];
	/** Whether a person wants no messages of this kind by this way. */
	declines(personId: number, kind: DispatchKind, way: 'email' | 'inbox'): boolean;
	/** A person's own zone and quiet hours, where they have any. */
	ownTime(personId: number): OwnTime | undefined;
	/** The same roster with what is some people's own exchanged: all of it, for each of them. */
	withOwn(personIds: readonly number[], own: OwnRows): Roster;
}

/** What belongs to one person alone: where they are reached, what they read, and what they have chosen for themselves. */
export type OwnRows = Pick<RosterRows, 'people' | 'addresses' | 'declined' | 'ownTimes'>;

/** What stands by a number, read once, with what has been exchanged since laid over it: most of a roster never is. */
interface Laid<V> {
	get(id: number): V | undefined;
	/** The same with the entries of some numbers exchanged; those that have none any more are gone. */
	with(ids: readonly number[], after: ReadonlyMap<number, V>): Laid<V>;
}

/** So many entries lie over before all become one again. */
const mostOver = 2_000;

function laid<V>(
	under: ReadonlyMap<number, V>,
	over: ReadonlyMap<number, V | undefined> = new Map<number, V | undefined>()
): Laid<V> {
	return {
		get: (id) => (over.has(id) ? over.get(id) : under.get(id)),
		with(ids, after) {
			const next = new Map(over);
			for (const id of [...ids, ...after.keys()]) next.set(id, after.get(id));
			if (next.size <= mostOver) return laid(under, next);
			const whole = new Map(under);
			for (const [id, value] of next) {
				if (value === undefined) whole.delete(id);
				else whole.set(id, value);
			}
			return laid(whole);
		}
	};
}

/** {@link OwnRows} by person. */
interface Own {
	readonly addresses: Laid<readonly KnownAddress[]>;
	readonly declined: Laid<readonly Declined[]>;
	readonly times: Laid<OwnTime>;
	/** Those who have changed something of themselves since the whole was read. */
	readonly people: Laid<Person>;
}

/** {@link OwnRows} by person, as they are read. */
const ownOf = ({ people, addresses, declined, ownTimes }: OwnRows) => ({
	addresses: groupBy(addresses.map(knownAddress), (a) => a.personId),
	declined: groupBy(declined, (d) => d.personId),
	times: new Map(ownTimes.map((t) => [t.personId, t])),
	people: new Map(people.map((p) => [p.id, p]))
});

const none: readonly never[] = [];

/** Groups ids by a key, keeping their order. */
function idsBy<K, V>(
	rows: Iterable<V>,
	keyOf: (row: V) => K,
	idOf: (row: V) => number
): Map<K, number[]> {
	const groups = new Map<K, number[]>();
	for (const row of rows) {
		const key = keyOf(row);
		const group = groups.get(key);
		if (group) group.push(idOf(row));
		else groups.set(key, [idOf(row)]);
	}
	return groups;
}

/** Indexes roster rows. Rows that point at people who are not there are kept: the plan leaves them out by name. */
export function makeRoster(rows: RosterRows): Roster {
	const people = new Map(rows.people.map((p) => [p.id, p]));
	const sections = new Map(rows.sections.map((s) => [s.id, s]));
	const contacts = groupBy(rows.contacts, (c) => c.studentId);
	const enrolled = idsBy(
		rows.enrolments,
		(e) => e.sectionId,
		(e) => e.studentId
	);
	const sectionsOf = new Map<number, Section[]>();
	for (const { sectionId, studentId } of rows.enrolments) {
		const section = sections.get(sectionId);
		if (!section) continue;
		const list = sectionsOf.get(studentId);
		if (list) list.push(section);
		else sectionsOf.set(studentId, [section]);
	}
	const students = rows.people.filter((p) => p.kind === 'student');
	const ofSchool = idsBy(
		students,
		(p) => p.schoolId,
		(p) => p.id
	);
	const ofGrade = idsBy(
		students,
		(p) => p.gradeLevel,
		(p) => p.id
	);
	const ofGroup = idsBy(
		rows.groupMembers.filter((m) => people.get(m.personId)?.kind === 'student'),
		(m) => m.groupId,
		(m) => m.personId
	);
	const ofCourse = groupBy(rows.sections, (s) => s.courseId);
	const ofTerm = groupBy(rows.sections, (s) => s.termId);
	const staff = idsBy(
		rows.sectionStaff,
		(s) => s.sectionId,
		(s) => s.personId
	);
	const taught = idsBy(
		rows.sectionStaff,
		(s) => s.personId,
		(s) => s.sectionId
	);
	const households = idsBy(
		rows.householdMembers,
		(m) => m.personId,
		(m) => m.householdId
	);
	const at = (own: Own): Roster => ({
		person: (id) => own.people.get(id) ?? people.get(id),
		section: (id) => sections.get(id),
		studentsIn: (id) => enrolled.get(id) ?? none,
		contactsOf: (id) => contacts.get(id) ?? none,
		addressesOf: (id) => own.addresses.get(id) ?? none,
		sectionsOf: (id) => sectionsOf.get(id) ?? none,
		sectionsOfCourse: (id) => ofCourse.get(id) ?? none,
		sectionsOfTerm: (id) => ofTerm.get(id) ?? none,
		studentsOfSchool: (id) => ofSchool.get(id) ?? none,
		studentsOfGrade: (level) => ofGrade.get(level) ?? none,
		studentsOfGroup: (id) => ofGroup.get(id) ?? none,
		staffOf: (id) => staff.get(id) ?? none,
		sectionsTaughtBy: (id) => taught.get(id) ?? none,
		householdsOf: (id) => households.get(id) ?? none,
		staffRoles: () => rows.staffRoles,
		declines: (id, kind, way) =>
			own.declined.get(id)?.some((d) => d.kind === kind && d.way === way) ?? false,
		ownTime: (id) => own.times.get(id),
		withOwn(personIds, rows) {
			const changed = ownOf(rows);
			return at({
				addresses: own.addresses.with(personIds, changed.addresses),
				declined: own.declined.with(personIds, changed.declined),
				times: own.times.with(personIds, changed.times),
				people: own.people.with(personIds, changed.people)
			});
		}
	});
	const { addresses, declined, times } = ownOf({ ...rows, people: [] });
	return at({
		addresses: laid(addresses),
		declined: laid(declined),
		times: laid(times),
		people: laid(new Map<number, Person>())
	});
}

/** "Delfina Amaro". */
export const fullName = (p: Pick<Person, 'givenName' | 'familyName'>): string =>
	`${p.givenName} ${p.familyName}`.trim();
