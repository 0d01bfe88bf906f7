import type {
	Address,
	Contact,
	Enrolment,
	HouseholdMember,
	Person,
	RosterRows,
	Section,
	SectionStaff,
	StaffRole
} from '../../../core/roster/types';
import type { AnyRow, RowTable } from './row-tables';
import { rowMark, type Work } from './work';

/** How rows of a table are told apart, and made from what a roster file puts down. */
interface Made<T> {
	readonly table: RowTable;
	readonly mark: (row: T) => string;
	readonly make: (row: AnyRow) => T;
}

const flag = (value: unknown): boolean => value === 1;

const people: Made<Person> = {
	table: 'person',
	mark: (p) => String(p.id),
	make: (r) => ({
		id: r.id as number,
		kind: r.kind as Person['kind'],
		givenName: r.given_name as string,
		familyName: r.family_name as string,
		language: r.language as string,
		schoolId: r.school_id as number | null,
		gradeLevel: r.grade_level as string | null,
		hasInbox: flag(r.has_inbox)
	})
};
const addresses: Made<Address> = {
	table: 'address',
	mark: (a) => String(a.id),
	make: (r) => ({
		id: r.id as number,
		personId: r.person_id as number,
		way: r.way as Address['way'],
		value: r.value as string,
		consent: r.consent as Address['consent'],
		failing: r.failing as string | null
	})
};
const contacts: Made<Contact> = {
	table: 'contact',
	mark: (c) => `${c.studentId}\n${c.personId}`,
	make: (r) => ({
		studentId: r.student_id as number,
		personId: r.person_id as number,
		relation: r.relation as string,
		guardian: flag(r.guardian),
		custody: r.custody === null ? null : flag(r.custody),
		correspondence: flag(r.correspondence),
		emergency: flag(r.emergency)
	})
};
const enrolments: Made<Enrolment> = {
	table: 'enrolment',
	mark: (e) => `${e.sectionId}\n${e.studentId}`,
	make: (r) => ({ sectionId: r.section_id as number, studentId: r.student_id as number })
};
const teaching: Made<SectionStaff> = {
	table: 'section_staff',
	mark: (s) => `${s.sectionId}\n${s.personId}`,
	make: (r) => ({ sectionId: r.section_id as number, personId: r.person_id as number })
};
const living: Made<HouseholdMember> = {
	table: 'household_member',
	mark: (m) => `${m.householdId}\n${m.personId}`,
	make: (r) => ({ householdId: r.household_id as number, personId: r.person_id as number })
};
const posts: Made<StaffRole> = {
	table: 'staff',
	mark: (s) => `${s.personId}\n${s.schoolId ?? ''}\n${s.role}`,
	make: (r) => ({
		personId: r.person_id as number,
		schoolId: r.school_id as number | null,
		role: r.role as string
	})
};

/** The rows of one table after work: what has gone is not there. */
function after<T>(rows: readonly T[], work: Work, { table, mark, make }: Made<T>): readonly T[] {
	const { put, change, take } = work[table];
	if (put.length + change.length + take.length === 0) return rows;
	const changed = new Map<string, AnyRow | null>();
	for (const row of take) changed.set(rowMark(table, row), null);
	const isGone = (row: AnyRow) => 'gone_at' in row && row.gone_at !== null;
	for (const { after: row } of change) changed.set(rowMark(table, row), isGone(row) ? null : row);
	const next: T[] = [];
	for (const row of rows) {
		const key = mark(row);
		const other = changed.get(key);
		if (other === undefined) next.push(row);
		else if (other !== null) next.push(make(other));
		changed.delete(key);
	}
	// What was gone and comes back.
	for (const row of changed.values()) if (row !== null) next.push(make(row));
	for (const row of put) next.push(make(row));
	return next;
}

/** The roster as it would be after work: what the roster in memory will be made from. */
export function rowsAfter(rows: RosterRows, work: Work): RosterRows {
	const staying = after(rows.people, work, people);
	const schoolOf = new Map<number, number>();
	for (const { courseId, schoolId } of rows.sections) schoolOf.set(courseId, schoolId);
	for (const row of work.course.put) schoolOf.set(row.id as number, row.school_id as number);
	const sections: Made<Section> = {
		table: 'section',
		mark: (s) => String(s.id),
		make: (r) => ({
			id: r.id as number,
			courseId: r.course_id as number,
			schoolId: schoolOf.get(r.course_id as number) ?? 0,
			termId: r.term_id as number,
			name: r.name as string
		})
	};
	return {
		...rows,
		people: staying,
		addresses: after(rows.addresses, work, addresses),
		contacts: after(rows.contacts, work, contacts),
		sections: after(rows.sections, work, sections),
		enrolments: after(rows.enrolments, work, enrolments),
		sectionStaff: after(rows.sectionStaff, work, teaching),
		householdMembers: after(rows.householdMembers, work, living),
		staffRoles: after(rows.staffRoles, work, posts)
	};
}
