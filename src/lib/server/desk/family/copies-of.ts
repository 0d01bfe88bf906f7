/** The copies of a person, in SQL, by which a dispatch can be read: their own, and those at an address they share. */
export const copiesOf = (person: string) =>
	`SELECT own.id FROM delivery AS own WHERE own.person_id = ${person}
	UNION SELECT delivery_id FROM delivery_also WHERE person_id = ${person}`;
export /** Those of a person who is bound as $person. */
const copiesOfPerson = copiesOf('$person');
