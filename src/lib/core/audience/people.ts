import type { Roster } from '../roster/roster';
import type { Contact } from '../roster/types';
import { markHolds } from '../roster/marker';
import { fallsUnder } from '../copy/language';
import type { Condition, MeantKind } from './audience';
import type { Facts } from './facts';
import { dutyReason, type Reason } from './reasons';

/** As what somebody is in: a contact of the student, the student, their teacher; or for no student, as staff, as one who joined a group, by name, by hand. */
export type As = 'contact' | 'self' | 'teacher' | 'staff' | 'joined' | 'name' | 'hand';

/**
 * Takes one adult or student who is meant for one student, or passed over with the reason. `word` is
 * the roster's own for what they are: a relation or a role; null where it has none. Called for hundreds of thousands of pairs:
 * that is why it is no list of objects.
 */
export type TakeTie = (
	personId: number,
	studentId: number,
	as: As,
	word: string | null,
	passedOver: Reason | null
) => void;

/** Whether a contact is of the kind that was asked for; what duty says about them comes after. */
function wanted(kind: MeantKind, contact: Contact): boolean {
	switch (kind.kind) {
		case 'guardians':
		case 'all-guardians':
			return contact.guardian;
		case 'relation':
			return contact.relation === kind.relation;
		case 'emergency':
			return contact.emergency;
		case 'other-contacts':
			return !contact.guardian && !contact.emergency;
		case 'students':
		case 'section-staff':
			return false;
	}
}

/** Kinds that custody and correspondence do not weigh on: they were asked for by name. */
export const withoutDuty: ReadonlySet<MeantKind['kind']> = new Set([
	'all-guardians',
	'emergency',
	'other-contacts'
]);

/** Hands over the people a kind comes to for one student. `termIds` are the terms whose sections' staff is meant; empty means every term. */
export function tiesOf(
	roster: Roster,
	kind: MeantKind,
	studentId: number,
	termIds: ReadonlySet<number>,
	take: TakeTie
): void {
	if (kind.kind === 'students') {
		take(studentId, studentId, 'self', null, null);
		return;
	}
	if (kind.kind === 'section-staff') {
		const staff = new Set<number>();
		for (const section of roster.sectionsOf(studentId)) {
			if (termIds.size > 0 && !termIds.has(section.termId)) continue;
			roster.staffOf(section.id).forEach((personId) => staff.add(personId));
		}
		staff.forEach((personId) => take(personId, studentId, 'teacher', null, null));
		return;
	}
	const duty = !withoutDuty.has(kind.kind);
	for (const contact of roster.contactsOf(studentId)) {
		if (!wanted(kind, contact)) continue;
		take(
			contact.personId,
			studentId,
			'contact',
			contact.relation,
			duty ? dutyReason(contact) : null
		);
	}
}

/** Whether a condition holds for a person who is meant for a student, or for themselves (null). */
export function holds(
	roster: Roster,
	facts: Facts,
	condition: Condition,
	personId: number,
	studentId: number | null
): boolean {
	const person = roster.person(personId);
	if (!person) return false;
	switch (condition.kind) {
		case 'language':
			return condition.tags.some((tag) => fallsUnder(person.language, tag));
		case 'email': {
			const works = roster
				.addressesOf(personId)
				.some((a) => a.way === 'email' && a.failing === null);
			return works === condition.works;
		}
		case 'text': {
			const optedIn = roster
				.addressesOf(personId)
				.some((a) => a.way === 'text' && a.consent === 'in');
			return optedIn === condition.optedIn;
		}
		case 'household': {
			const homes = studentId === null ? [] : roster.householdsOf(studentId);
			return roster.householdsOf(personId).some((h) => homes.includes(h)) === condition.shared;
		}
		case 'outcome':
			return facts.hasRead(condition.dispatchId, personId) === condition.read;
		case 'coming':
			return facts.coming(condition.dispatchId, personId) === condition.is;
		case 'marker':
			return (
				studentId !== null && markHolds(condition.is, facts.mark(condition.markerId, studentId))
			);
	}
}
