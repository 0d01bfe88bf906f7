import { groupBy } from '../../../core/group-by';
import {
	noCounts,
	type Counts,
	type Share,
	type Tab,
	type What
} from '../../../core/roster/counts';
import type { ThingKind, Things } from '../../../core/roster/things';
import type { Done } from './plan-work';
import type { AnyRow } from './row-tables';

/** Where each kind is listed; households follow from the rest and are only counted. */
export const tabOf: Readonly<Record<ThingKind, Tab | null>> = {
	school: 'sections',
	term: 'sections',
	course: 'sections',
	section: 'sections',
	person: 'people',
	household: null,
	staffRole: 'staff',
	contact: 'contacts',
	householdMember: null,
	enrolment: 'enrolments',
	sectionStaff: 'staff'
};

/** What becomes of a thing. */
export const whatOf = ({ step }: Done): What => (step.what === 'back' ? 'new' : step.what);

/** How many things change, by what becomes of them and where they are listed. */
export function countsOf(done: readonly Done[]): {
	readonly counts: Counts;
	readonly homes: number;
} {
	const counts = noCounts();
	let homes = 0;
	for (const one of done) {
		const tab = tabOf[one.change.kind];
		if (tab !== null) counts[whatOf(one)][tab] += 1;
		else if (one.change.kind === 'household') homes += 1;
	}
	return { counts, homes };
}

/** How much of what the source has said goes or changes. */
export function sharesOf(before: Things, done: readonly Done[]): Share[] {
	const touched = { students: 0, sections: 0, enrolments: 0, contacts: 0 };
	for (const { change, step } of done) {
		if (step.what !== 'gone' && step.what !== 'changed') continue;
		if (change.kind === 'person' && (change.before ?? change.after)!.kind === 'student')
			touched.students += 1;
		else if (change.kind === 'section') touched.sections += 1;
		else if (change.kind === 'enrolment') touched.enrolments += 1;
		else if (change.kind === 'contact') touched.contacts += 1;
	}
	// Of a contact list nothing else is known.
	if (before.section.size === 0 && before.contact.size > 0)
		return [{ of: 'contacts', touched: touched.contacts, known: before.contact.size }];
	let students = 0;
	for (const { kind } of before.person.values()) if (kind === 'student') students += 1;
	return [
		{ of: 'students', touched: touched.students, known: students },
		{ of: 'sections', touched: touched.sections, known: before.section.size },
		{ of: 'enrolments', touched: touched.enrolments, known: before.enrolment.size }
	];
}

/** New contacts of whom nobody has said whether they have custody, by relation; the most first. */
export function unsaidOf(put: readonly AnyRow[]): { relation: string; contacts: number }[] {
	const by = groupBy(
		put.filter((row) => row.custody === null && row.guardian === 1),
		(row) => row.relation as string
	);
	return [...by]
		.map(([relation, rows]) => ({ relation, contacts: rows.length }))
		.sort((a, b) => b.contacts - a.contacts);
}
