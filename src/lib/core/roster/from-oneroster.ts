import type { Book } from '../format/oneroster/book';
import type { EnrollmentLine, SessionLine, UserLine } from '../format/oneroster/lines';
import { groupBy } from '../group-by';
import { addListed } from './list/from-list';
import { gradeLevelOf } from './grade';
import { keyOf, noThings, type Thing, type Things } from './things';

/** A role that somebody has on a day. */
interface HeldRole {
	readonly role: string;
	readonly org: string;
	readonly primary: boolean;
}

/** Roles of families; all others but `student` are work. */
const familyRoles: ReadonlySet<string> = new Set(['parent', 'guardian', 'relative']);

/** Staff roles as people say them; what is not here is said as it is written. */
const roleWords: Readonly<Record<string, string>> = {
	districtAdministrator: 'district administrator',
	siteAdministrator: 'administrator',
	systemAdministrator: 'system administrator'
};

/**
 * The roster that what a source says comes to on a day (ISO date, of the district's zone): who is
 * enrolled depends on it. What a line names is looked up before; here what is not there is passed over.
 */
export function thingsOf(book: Book, today: string): Things {
	const things = noThings();
	const schools = new Set<string>();
	for (const org of book.orgs.values()) {
		if (org.type !== 'school') continue;
		schools.add(org.id);
		things.school.set(org.id, { name: org.name });
	}
	addSections(book, things);
	addPeople(book, things, { today, schools });
	addContacts(book, things);
	addHomes(things);
	addEnrolments(book, things, today);
	addListed(book.contacts, things);
	return things;
}

type Made = ReturnType<typeof noThings>;

/** Sections with their courses and terms. A course of the district is one in each school where it is taught. */
function addSections(book: Book, things: Made): void {
	for (const line of book.classes.values()) {
		const course = book.courses.get(line.course);
		const term = termOf(line.terms, book.academicSessions);
		if (!course || !term || !things.school.has(line.school)) continue;
		const courseKey = keyOf(course.id, line.school);
		if (!things.course.has(courseKey))
			things.course.set(courseKey, {
				school: line.school,
				code: course.courseCode,
				title: course.title
			});
		if (!things.term.has(term.id))
			things.term.set(term.id, {
				name: term.title,
				startsOn: term.startDate,
				endsOn: term.endDate
			});
		things.section.set(line.id, {
			course: courseKey,
			term: term.id,
			name: line.title,
			period: line.periods
		});
	}
}

/** Sessions from one to its topmost parent. */
function upwards(id: string, sessions: Book['academicSessions']): SessionLine[] {
	const path: SessionLine[] = [];
	for (let at = sessions.get(id); at && !path.includes(at); at = sessions.get(at.parent ?? ''))
		path.push(at);
	return path;
}

/**
 * The one term of a class that is held in several sessions: the nearest that all of them belong to
 * (four grading periods are a year); where there is none, the longest of them.
 */
export function termOf(
	ids: readonly string[],
	sessions: Book['academicSessions']
): SessionLine | undefined {
	const [first, ...others] = ids.map((id) => upwards(id, sessions)).filter((p) => p.length > 0);
	if (!first) return undefined;
	const shared = first.find((session) => others.every((path) => path.includes(session)));
	if (shared) return shared;
	const days = (s: SessionLine) => Date.parse(s.endDate) - Date.parse(s.startDate);
	return [first, ...others]
		.map((path) => path[0]!)
		.reduce((longest, s) => (days(s) > days(longest) ? s : longest));
}

/** Whether something is in force on a day; half-open, as the standard has its dates. */
const inForce = (
	{ beginDate, endDate }: { readonly beginDate: string | null; readonly endDate: string | null },
	day: string
): boolean => (beginDate === null || beginDate <= day) && (endDate === null || day < endDate);

/** People with what they do. Who has no role here today is not there. */
function addPeople(
	book: Book,
	things: Made,
	{ today, schools }: { readonly today: string; readonly schools: ReadonlySet<string> }
): void {
	const apart = groupBy(
		[...book.roles.values()].filter((r) => inForce(r, today)),
		(r) => r.user
	);
	for (const user of book.users.values()) {
		const held: readonly HeldRole[] =
			user.role === null
				? (apart.get(user.id) ?? [])
				: user.orgs.map((org, i) => ({ role: user.role!, org, primary: i === 0 }));
		if (held.length === 0) continue;
		things.person.set(user.id, personOf(user, held, schools));
		for (const { role, org } of held) {
			if (role === 'student' || familyRoles.has(role)) continue;
			const school = schools.has(org) ? org : null;
			const word = roleWords[role] ?? role;
			things.staffRole.set(keyOf(user.id, school, word), { person: user.id, school, role: word });
		}
	}
}

function personOf(
	user: UserLine,
	held: readonly HeldRole[],
	schools: ReadonlySet<string>
): Thing<'person'> {
	const student = held.some((r) => r.role === 'student');
	const at = held.filter((r) => r.role === 'student' && schools.has(r.org));
	const { email, sms, phone } = user;
	return {
		kind: student ? 'student' : 'adult',
		givenName: user.givenName,
		familyName: user.familyName,
		identifier: user.identifier,
		...(student ? { school: (at.find((r) => r.primary) ?? at[0])?.org ?? null } : {}),
		gradeLevel: student && user.grade !== null ? gradeLevelOf(user.grade) : null,
		hasInbox: user.enabled,
		...(email === undefined ? {} : { email }),
		...(sms === undefined ? {} : { sms }),
		...(phone === undefined ? {} : { phone: phone === sms ? null : phone })
	};
}

/** The relation that a role says, as far as one does: the standard has no mother and no aunt. */
function relationOf(
	book: Book,
	agent: UserLine,
	roles: ReadonlyMap<string, readonly string[]>
): { readonly relation: string; readonly guardian: boolean } {
	const held = agent.role === null ? (roles.get(agent.id) ?? []) : [agent.role];
	if (held.includes('parent')) return { relation: 'parent', guardian: true };
	if (held.includes('guardian')) return { relation: 'guardian', guardian: true };
	if (held.includes('relative')) return { relation: 'relative', guardian: false };
	// An agent is a parent in most cases, also one who works here (1.1 section 4.13.1, "agentSourcedIds").
	return { relation: 'guardian', guardian: true };
}

/** Adults tied to students, whichever of the two names the other. */
function addContacts(book: Book, things: Made): void {
	const roles = new Map<string, string[]>();
	for (const { user, role } of book.roles.values()) {
		if (!familyRoles.has(role)) continue;
		const list = roles.get(user);
		if (list) list.push(role);
		else roles.set(user, [role]);
	}
	for (const user of book.users.values()) {
		const kind = things.person.get(user.id)?.kind;
		if (!kind) continue;
		for (const other of user.agents) {
			const otherKind = things.person.get(other)?.kind;
			if (!otherKind || otherKind === kind) continue;
			const [student, person] = kind === 'student' ? [user.id, other] : [other, user.id];
			const key = keyOf(student, person);
			if (things.contact.has(key)) continue;
			const agent = book.users.get(person)!;
			things.contact.set(key, { student, person, ...relationOf(book, agent, roles) });
		}
	}
}

/**
 * Households, which the standard does not know: students with the same guardians live with them, as
 * far as anybody has said. Named by the student whose sourcedId comes first, so that a guardian more
 * is no other home.
 */
function addHomes(things: Made): void {
	const guardians = new Map<string, string[]>();
	for (const [id, { kind }] of things.person) if (kind === 'student') guardians.set(id, []);
	for (const { student, person, guardian } of things.contact.values())
		if (guardian) guardians.get(student)!.push(person);
	const families = groupBy(guardians, ([id, list]) =>
		list.length === 0 ? id : list.sort().join('\n')
	);
	for (const members of families.values()) {
		const students = members.map(([id]) => id).sort();
		const home = students[0]!;
		const people = [...students, ...members[0]![1]];
		const named = new Set(people.map((id) => things.person.get(id)!.familyName));
		things.household.set(home, { name: [...named].slice(0, 3).join(' and ') });
		for (const person of people)
			things.householdMember.set(keyOf(home, person), { household: home, person });
	}
}

/** The day by which it is judged who is in a class: today, or the nearest day of its term. */
function dayIn(term: Thing<'term'>, today: string): string {
	if (today < term.startsOn) return term.startsOn;
	return today < term.endsOn ? today : lastDay(term.endsOn);
}
function lastDay(endsOn: string): string {
	return new Date(Date.parse(endsOn) - 86_400_000).toISOString().slice(0, 10);
}

function addEnrolments(book: Book, things: Made, today: string): void {
	const days = new Map([...things.term].map(([key, term]) => [key, dayIn(term, today)]));
	for (const line of book.enrollments.values()) {
		const section = things.section.get(line.class);
		const person = things.person.get(line.user);
		if (!section || !person || !inForce(line, days.get(section.term)!)) continue;
		addEnrolment(line, person, things);
	}
}

function addEnrolment(line: EnrollmentLine, person: Thing<'person'>, things: Made): void {
	const key = keyOf(line.class, line.user);
	if (line.role === 'student') {
		// Of someone who is no student here there are no families to write to.
		if (person.kind === 'student')
			things.enrolment.set(key, { section: line.class, student: line.user });
		return;
	}
	if (line.role === 'teacher' || line.role === 'aide')
		things.sectionStaff.set(key, { section: line.class, person: line.user });
}

/** The next day after one on which something of a book begins or ends; null where nothing does. */
export function nextTurn(book: Book, today: string): string | null {
	let next: string | null = null;
	const see = (day: string | null) => {
		if (day !== null && day > today && (next === null || day < next)) next = day;
	};
	for (const { beginDate, endDate } of book.roles.values()) {
		see(beginDate);
		see(endDate);
	}
	for (const { beginDate, endDate } of book.enrollments.values()) {
		see(beginDate);
		see(endDate);
	}
	for (const { startDate, endDate } of book.academicSessions.values()) {
		see(startDate);
		see(endDate);
	}
	return next;
}
