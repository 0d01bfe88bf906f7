import type { Roster } from '../roster/roster';
import { type PeopleLine, type StudentLine, type StudentSet } from './audience';
import { picksBringing } from './named';
import type { Facts, ListEntry } from './facts';
import { tiesOf, type As } from './people';
import { dutyReason, type Reason } from './reasons';

/** The terms that the picks of a set's students speak of; empty where they speak of none. What is excepted has no say: it would add the staff of its own term. */
export function termsOf(roster: Roster, set: StudentSet): Set<number> {
	const terms = new Set<number>();
	for (const pick of picksBringing(set)) {
		if (pick.kind === 'terms') pick.ids.forEach((id) => terms.add(id));
		if (pick.kind === 'courses') terms.add(pick.termId);
		if (pick.kind === 'sections') {
			for (const id of pick.ids) {
				const section = roster.section(id);
				if (section) terms.add(section.termId);
			}
		}
	}
	return terms;
}

/** Takes a person for a student (null: for themselves), as a line means or passes them over. */
export type TakePair = (
	personId: number,
	studentId: number | null,
	as: As,
	word: string | null,
	passedOver: Reason | null
) => void;

/** Hands over everyone a line means for the students of its set. */
export function pairsOfStudents(
	roster: Roster,
	line: StudentLine,
	set: ReadonlySet<number> | null,
	take: TakePair
): void {
	const terms = line.to.some((t) => t.kind === 'section-staff')
		? termsOf(roster, line.of)
		: new Set<number>();
	for (const studentId of set ?? []) {
		for (const kind of line.to) tiesOf(roster, kind, studentId, terms, take);
	}
}

/** Hands over the people of a line that names people, not students. */
export function pairsOfPeople(
	roster: Roster,
	facts: Facts,
	line: PeopleLine,
	take: TakePair
): void {
	const { people } = line;
	switch (people.kind) {
		case 'staff': {
			const [roles, schools] = [new Set(people.roles), new Set(people.schoolIds)];
			for (const { personId, role, schoolId } of roster.staffRoles()) {
				if (roles.size > 0 && !roles.has(role)) continue;
				if (schools.size > 0 && (schoolId === null || !schools.has(schoolId))) continue;
				take(personId, null, 'staff', role, null);
			}
			return;
		}
		case 'named':
			people.ids.forEach((personId) => take(personId, null, 'name', null, null));
			return;
		case 'joined':
			for (const groupId of people.groupIds) {
				const group = facts.joined(groupId);
				group?.members.forEach((member) => pairOfMember(roster, member, group.over, take));
			}
			return;
		case 'list':
			facts.list(people.keptId)?.forEach((entry) => pairOfEntry(roster, entry, take));
	}
}

/** One who joined an open group. Whom the roster knows as a contact of the student stands under the same duty as everybody. */
function pairOfMember(
	roster: Roster,
	{ personId, studentId }: { readonly personId: number; readonly studentId: number | null },
	over: boolean,
	take: TakePair
): void {
	const contact =
		studentId === null
			? undefined
			: roster.contactsOf(studentId).find((c) => c.personId === personId);
	const passedOver = over ? groupOver : contact ? dutyReason(contact) : null;
	take(personId, studentId, 'joined', contact?.relation ?? null, passedOver);
}
const groupOver: Reason = { code: 'group-over' };

/** One entry of a fixed list. The list is fixed, the duty is not: who has lost custody since is passed over. */
function pairOfEntry(
	roster: Roster,
	{ personId, studentId, explicit }: ListEntry,
	take: TakePair
): void {
	if (studentId === null) return take(personId, null, 'name', null, null);
	if (studentId === personId) return take(personId, studentId, 'self', null, null);
	const contact = roster.contactsOf(studentId).find((c) => c.personId === personId);
	if (contact) {
		return take(
			personId,
			studentId,
			'contact',
			contact.relation,
			explicit ? null : dutyReason(contact)
		);
	}
	const teaches = roster.sectionsOf(studentId).some((s) => roster.staffOf(s.id).includes(personId));
	take(personId, studentId, 'teacher', null, teaches ? null : { code: 'no-longer-tied' });
}
