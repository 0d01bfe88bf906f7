import { fold } from '../../../core/format/fold';
import { groupBy } from '../../../core/group-by';
import type { Change } from '../../../core/roster/difference';
import type { Things } from '../../../core/roster/things';
import { contactKey } from '../../../core/roster/list/from-list';
import type { Query } from '../../db/open';
import type { Known } from './known';
import { toldApart } from './same-people';
import type { Question } from './types';

/**
 * Contacts of a list who may be contacts already: the same name, and a student they share. They are
 * asked about; whoever the list itself has named before, if by another of its lines, is known by that.
 */
export async function findSameContacts(
	db: Query,
	sourceId: number,
	changes: readonly Change[],
	{ contact }: Pick<Things, 'contact'>,
	known: Known
): Promise<Omit<Question, 'inFile'>[]> {
	const fresh = changes.filter(
		(c) =>
			c.kind === 'person' &&
			c.before === null &&
			c.after?.kind === 'adult' &&
			known.idOf('person', c.key) === undefined
	);
	if (fresh.length === 0) return [];
	const students = groupBy(contact.values(), (c) => c.person);
	const told = await toldApart(db, sourceId);
	const here = await contactsHere(
		db,
		fresh.flatMap((c) =>
			(students.get(c.key) ?? []).flatMap((t) => known.idOf('person', t.student) ?? [])
		)
	);
	const open: Omit<Question, 'inFile'>[] = [];
	for (const { key, after } of fresh) {
		const person = {
			givenName: after!.givenName as string,
			familyName: after!.familyName as string
		};
		const name = fold(`${person.givenName} ${person.familyName}`.trim());
		for (const { student } of students.get(key) ?? []) {
			const earlier = known.idOf('person', contactKey({ ...person, student }));
			if (earlier !== undefined) {
				known.bind('person', key, earlier);
				break;
			}
			const same = (here.get(known.idOf('person', student) ?? 0) ?? []).filter(
				(c) => fold(c.name) === name
			);
			const [one] = same;
			if (!one || same.length > 1) continue;
			const said = told.get(`${key} ${one.personId}`);
			if (said === true) known.bind('person', key, one.personId);
			else if (said === undefined)
				open.push({
					...{ key, by: 'tie', shared: `contact of ${one.student}` },
					here: { personId: one.personId, name: one.name, note: one.relation }
				});
			break;
		}
	}
	return open;
}

interface ContactHere {
	readonly studentId: number;
	readonly student: string;
	readonly personId: number;
	readonly name: string;
	readonly relation: string;
}

async function contactsHere(
	db: Query,
	studentIds: readonly number[]
): Promise<ReadonlyMap<number, readonly ContactHere[]>> {
	const rows = await db.all<ContactHere>(
		`SELECT student_id AS studentId, student.given_name AS student, person.id AS personId, relation,
			person.given_name || ' ' || person.family_name AS name
		FROM contact_now AS contact JOIN person_now AS person ON person.id = contact.person_id
		JOIN person AS student ON student.id = student_id
		WHERE student_id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify([...new Set(studentIds)]) }
	);
	return groupBy(rows, (r) => r.studentId);
}
