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
import {
	addressMaker,
	contactMaker,
	enrolmentMaker,
	householdMemberMaker,
	personMaker,
	type RowMaker
} from '../../db/roster';
import type { AnyRow, RowTable } from './row-tables';
import { rowMark, type Work } from './work';

/** How rows of a table are told apart, and made from what a roster file puts down. */
interface Made<T> {
	readonly table: RowTable;
	readonly mark: (row: T) => string;
	readonly make: (row: AnyRow) => T;
}

/** What a row becomes by the maker that reads it from the database. */
const by =
	<T>({ columns, make }: RowMaker<T>) =>
	(row: AnyRow): T =>
		make(columns.map((column) => row[column] ?? null));

const people: Made<Person> = {
	table: 'person',
	mark: (p) => String(p.id),
	make: by(personMaker)
};
const addresses: Made<Address> = {
	table: 'address',
	mark: (a) => String(a.id),
	make: by(addressMaker)
};
const contacts: Made<Contact> = {
	table: 'contact',
	mark: (c) => `${c.studentId}\n${c.personId}`,
	make: by(contactMaker)
};
const enrolments: Made<Enrolment> = {
	table: 'enrolment',
	mark: (e) => `${e.sectionId}\n${e.studentId}`,
	make: by(enrolmentMaker)
};
const members: Made<HouseholdMember> = {
	table: 'household_member',
	mark: (m) => `${m.householdId}\n${m.personId}`,
	make: by(householdMemberMaker)
};
const sectionStaff: Made<SectionStaff> = {
	table: 'section_staff',
	mark: (s) => `${s.sectionId}\n${s.personId}`,
	make: (r) => ({ sectionId: r.section_id as number, personId: r.person_id as number })
};
const staffRoles: Made<StaffRole> = {
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
		sectionStaff: after(rows.sectionStaff, work, sectionStaff),
		householdMembers: after(rows.householdMembers, work, members),
		staffRoles: after(rows.staffRoles, work, staffRoles)
	};
}
