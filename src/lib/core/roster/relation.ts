import { nameList } from '../copy/names';
import { fullName, type Roster } from './roster';

/** A person's name, also when they have left the roster. */
export function nameOf(roster: Roster, personId: number): string {
	const person = roster.person(personId);
	return person ? fullName(person) : 'No longer on the roster';
}

/**
 * What a person is to some students: "mother of Ana and Rui", "student", "aunt of Ana, mother of
 * Rui". Someone who is meant for a student without being tied to them teaches them.
 */
export function relationPhrase(
	roster: Roster,
	personId: number,
	studentIds: readonly number[]
): string {
	const names = new Map<string, string[]>();
	for (const id of studentIds) {
		const student = roster.person(id);
		if (!student) continue;
		const relation =
			id === personId
				? 'student'
				: (roster.contactsOf(id).find((c) => c.personId === personId)?.relation ?? 'teacher');
		names.set(relation, [...(names.get(relation) ?? []), student.givenName]);
	}
	return [...names]
		.map(([relation, list]) =>
			relation === 'student' ? relation : `${relation} of ${nameList(list)}`
		)
		.join(', ');
}
