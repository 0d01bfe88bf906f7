import { emptyBook, type Book } from '../../../core/format/oneroster/book';
import type { RoleLine, UserLine } from '../../../core/format/oneroster/lines';
import { checkMailAddress } from '../../../core/format/mail-address';
import { keptNumber } from '../../../core/format/phone';
import { groupBy } from '../../../core/group-by';
import { gradeCodeOf } from '../../../core/roster/grade';
import type { RosterRows } from '../../../core/roster/types';
import { readDistrict } from '../../db/district';
import { readMany } from '../../db/many';
import type { CourseRow, SchoolRow, SectionRow, TermRow } from '../../db/models/roster';
import type { Db, Query } from '../../db/open';
import { readRosterRows } from '../../db/roster';
import type { NumberedKind } from './known';
import { ownKey } from './own-keys';

type KeyOf = (kind: NumberedKind, id: number) => string;

/** Keys under which rows leave: the name that their oldest source has for them, else one of ours. */
async function keys(db: Query, secret: Buffer): Promise<KeyOf> {
	const named = new Map<string, string>();
	await readMany(
		db,
		'kind, row_id, key',
		'FROM known_as ORDER BY source_id DESC, key DESC',
		([kind, id, key]) => {
			// A course is known with its school behind it.
			named.set(`${kind as string} ${id as number}`, String(key).split('\n')[0]!);
		}
	);
	return (kind, id) => named.get(`${kind} ${id}`) ?? ownKey(secret, kind, id);
}

/** Everything that is here as a OneRoster 1.2 book: whoever has a part in a school, with what ties them. */
export async function heldBook(db: Db, secret: Buffer): Promise<Book> {
	const keyOf = await keys(db, secret);
	const rows = await readRosterRows(db);
	const book = emptyBook();
	const district = 'ic-district';
	const { name } = await readDistrict(db);
	book.orgs.set(district, { id: district, name, type: 'district' });
	for (const s of await db.all<SchoolRow>('SELECT id, name FROM school ORDER BY id')) {
		const id = keyOf('school', s.id);
		book.orgs.set(id, { id, name: s.name, type: 'school' });
	}
	await addSections(db, book, keyOf);
	addUsers(book, rows, keyOf);
	addRoles(book, rows, keyOf, district);
	addEnrollments(book, rows, keyOf);
	return book;
}

async function addSections(
	db: Query,
	book: ReturnType<typeof emptyBook>,
	keyOf: KeyOf
): Promise<void> {
	for (const t of await db.all<TermRow>(
		'SELECT id, name, starts_on AS startsOn, ends_on AS endsOn FROM term ORDER BY starts_on'
	)) {
		const id = keyOf('term', t.id);
		book.academicSessions.set(id, {
			id,
			title: t.name,
			type: 'term',
			startDate: t.startsOn,
			endDate: t.endsOn,
			parent: null
		});
	}
	const courses = await db.all<CourseRow>(
		'SELECT id, school_id AS schoolId, code, title FROM course ORDER BY id'
	);
	const schoolOf = new Map(courses.map((c) => [c.id, keyOf('school', c.schoolId)]));
	for (const c of courses) {
		const id = keyOf('course', c.id);
		book.courses.set(id, { id, title: c.title, courseCode: c.code, org: schoolOf.get(c.id)! });
	}
	for (const s of await db.all<SectionRow>(
		`SELECT id, course_id AS courseId, term_id AS termId, name, period FROM section_now ORDER BY id`
	)) {
		const id = keyOf('section', s.id);
		book.classes.set(id, {
			id,
			title: s.name,
			classCode: '',
			course: keyOf('course', s.courseId),
			school: schoolOf.get(s.courseId)!,
			terms: [keyOf('term', s.termId)],
			periods: s.period
		});
	}
}

/** Addresses as they leave: what is none stays here. */
function addressesOf(list: RosterRows['addresses']): Pick<UserLine, 'email' | 'sms' | 'phone'> {
	const emails = list.flatMap((a) =>
		a.way === 'email' && checkMailAddress(a.value).ok ? [a.value] : []
	);
	const phones = list.flatMap((a) => (a.way === 'text' ? (keptNumber(a.value) ?? []) : []));
	return { email: emails[0] ?? null, sms: phones[0] ?? null, phone: phones[1] ?? null };
}

function addUsers(book: ReturnType<typeof emptyBook>, rows: RosterRows, keyOf: KeyOf): void {
	const addresses = groupBy(rows.addresses, (a) => a.personId);
	const agents = groupBy(rows.contacts, (c) => c.studentId);
	const there = new Set(rows.people.map((p) => p.id));
	for (const p of rows.people) {
		const id = keyOf('person', p.id);
		book.users.set(id, {
			id,
			enabled: p.hasInbox,
			givenName: p.givenName,
			familyName: p.familyName,
			identifier: p.identifier ?? null,
			...addressesOf(addresses.get(p.id) ?? []),
			agents: (agents.get(p.id) ?? [])
				.filter((c) => there.has(c.personId))
				.map((c) => keyOf('person', c.personId)),
			grade: p.gradeLevel === null ? null : gradeCodeOf(p.gradeLevel),
			role: null,
			orgs: []
		});
	}
}

/** Words of ours for staff that the standard has a role for; any other leaves as an extension. */
const standard: Readonly<Record<string, string>> = {
	teacher: 'teacher',
	aide: 'aide',
	counselor: 'counselor',
	principal: 'principal',
	proctor: 'proctor',
	administrator: 'siteAdministrator',
	'district administrator': 'districtAdministrator',
	'system administrator': 'systemAdministrator'
};

function addRoles(
	book: ReturnType<typeof emptyBook>,
	rows: RosterRows,
	keyOf: KeyOf,
	district: string
): void {
	const put = (personId: number, role: string, org: string) => {
		const user = keyOf('person', personId);
		const id = `${user}-${role}-${org}`.slice(0, 255);
		if (book.roles.has(id) || !book.users.has(user)) return;
		const primary = !rolesOf.has(user);
		rolesOf.add(user);
		const line: RoleLine = { id, user, role, primary, org, beginDate: null, endDate: null };
		book.roles.set(id, line);
	};
	const rolesOf = new Set<string>();
	const schoolOf = new Map<number, string>();
	for (const p of rows.people)
		if (p.kind === 'student' && p.schoolId !== null) {
			schoolOf.set(p.id, keyOf('school', p.schoolId));
			put(p.id, 'student', schoolOf.get(p.id)!);
		}
	for (const { personId, schoolId, role } of rows.staffRoles)
		put(
			personId,
			standard[role] ?? `ext:${role}`,
			schoolId === null ? district : keyOf('school', schoolId)
		);
	for (const { studentId, personId, guardian, relation } of rows.contacts)
		put(
			personId,
			!guardian ? 'relative' : relation === 'guardian' ? 'guardian' : 'parent',
			schoolOf.get(studentId) ?? district
		);
	// Whoever has no part in any school is none of a roster's people.
	for (const id of [...book.users.keys()]) if (!rolesOf.has(id)) book.users.delete(id);
}

function addEnrollments(book: ReturnType<typeof emptyBook>, rows: RosterRows, keyOf: KeyOf): void {
	const put = (sectionId: number, personId: number, role: string) => {
		const section = keyOf('section', sectionId);
		const user = keyOf('person', personId);
		if (!book.classes.has(section) || !book.users.has(user)) return;
		const id = `${section}-${user}-${role}`.slice(0, 255);
		book.enrollments.set(id, {
			id,
			class: section,
			user,
			role,
			primary: role === 'teacher',
			beginDate: null,
			endDate: null
		});
	};
	for (const { sectionId, studentId } of rows.enrolments) put(sectionId, studentId, 'student');
	for (const { sectionId, personId } of rows.sectionStaff) put(sectionId, personId, 'teacher');
}
