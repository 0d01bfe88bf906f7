import { writeCsv } from '../../../core/format/csv';
import { keptNumber } from '../../../core/format/phone';
import { groupBy } from '../../../core/group-by';
import { listFields, type ListField } from '../../../core/roster/list/fields';
import type { Query } from '../../db/open';
import { ownKey } from './own-keys';

/** The columns of the list that goes out, under the headings by which they are known when it comes in. */
const columns = [
	...(['studentNumber', 'studentName', 'studentGrade', 'studentSchool', 'number'] as const),
	...(['givenName', 'familyName', 'relation', 'guardian', 'custody', 'correspondence'] as const),
	...([
		'emergency',
		'livesWith',
		'language',
		'email',
		'sms',
		'phone',
		'texts',
		'textsSince'
	] as const)
] satisfies readonly ListField[];

/** Ties that are read at a time. */
const atATime = 4_000;

interface TieOut {
	readonly studentId: number;
	readonly student: string;
	readonly grade: string | null;
	readonly school: string | null;
	readonly personId: number;
	readonly givenName: string;
	readonly familyName: string;
	readonly language: string;
	readonly relation: string;
	readonly guardian: number;
	readonly custody: number | null;
	readonly correspondence: number;
	readonly emergency: number;
	/** Homes of the student, and those that the adult shares. */
	readonly homes: number;
	readonly shared: number;
}
interface AddressOut {
	readonly personId: number;
	readonly way: 'email' | 'text';
	readonly value: string;
	readonly slot: string | null;
	readonly consent: 'in' | 'out' | 'unknown';
	readonly at: number | null;
}

const yesNo = (value: number | null): string => (value === null ? '' : value === 1 ? 'yes' : 'no');

/**
 * Everybody who is a contact of a student, one line for each tie, as CSV in pieces. Students and adults
 * have keys of ours, signed, so that it changes nothing where it is brought in again.
 */
export async function* contactsCsv(db: Query, secret: Buffer): AsyncGenerator<string> {
	yield writeCsv([columns.map((field) => listFields[field])]);
	let [student, person] = [0, 0];
	for (;;) {
		const ties = await db.all<TieOut>(
			`SELECT student.id AS studentId, student.given_name || ' ' || student.family_name AS student,
				student.grade_level AS grade, school.name AS school, person.id AS personId,
				person.given_name AS givenName, person.family_name AS familyName, person.language, relation,
				guardian, custody, correspondence, emergency,
				(SELECT count(*) FROM household_member AS home JOIN household_now ON household_now.id = household_id
					WHERE home.person_id = student.id) AS homes,
				(SELECT count(*) FROM household_member AS home JOIN household_member AS theirs USING (household_id)
					WHERE home.person_id = student.id AND theirs.person_id = person.id) AS shared
			FROM contact_now AS contact JOIN person_now AS student ON student.id = student_id
			JOIN person_now AS person ON person.id = contact.person_id LEFT JOIN school ON school.id = student.school_id
			WHERE (student_id, contact.person_id) > ($student, $person)
			ORDER BY student_id, contact.person_id LIMIT ${atATime}`,
			{ student, person }
		);
		if (ties.length === 0) return;
		const addresses = groupBy(
			await db.all<AddressOut>(
				`SELECT person_id AS personId, way, value, slot, consent, consent_at AS at FROM address
				WHERE person_id IN (SELECT value FROM json_each($ids)) ORDER BY id`,
				{ ids: JSON.stringify([...new Set(ties.map((t) => t.personId))]) }
			),
			(a) => a.personId
		);
		yield writeCsv(ties.map((tie) => lineOf(tie, addresses.get(tie.personId) ?? [], secret)));
		const last = ties.at(-1)!;
		[student, person] = [last.studentId, last.personId];
	}
}

/** One line. What a list cannot say is left empty, which says nothing. */
function lineOf(tie: TieOut, addresses: readonly AddressOut[], secret: Buffer): string[] {
	const first = (way: AddressOut['way'], slots: readonly (string | null)[]) =>
		addresses.find(
			(a) =>
				a.way === way && slots.includes(a.slot) && (way === 'email' || keptNumber(a.value) !== null)
		);
	const sms = first('text', ['sms', null]);
	const phone = first('text', ['phone']);
	const number = sms ?? phone;
	const cells: Record<(typeof columns)[number], string> = {
		studentNumber: ownKey(secret, 'person', tie.studentId),
		studentName: tie.student,
		studentGrade: tie.grade ?? '',
		studentSchool: tie.school ?? '',
		number: ownKey(secret, 'person', tie.personId),
		givenName: tie.givenName,
		familyName: tie.familyName,
		relation: tie.relation,
		guardian: yesNo(tie.guardian),
		custody: yesNo(tie.custody),
		correspondence: yesNo(tie.correspondence),
		emergency: yesNo(tie.emergency),
		// In which of two homes a list cannot say.
		livesWith: tie.homes === 1 ? yesNo(tie.shared > 0 ? 1 : 0) : '',
		language: tie.language,
		email: first('email', ['email', null])?.value ?? '',
		sms: sms?.value ?? '',
		phone: phone?.value ?? '',
		texts: number ? { in: 'yes', out: 'no', unknown: '' }[number.consent] : '',
		textsSince:
			number?.consent === 'in' && number.at !== null
				? new Date(number.at).toISOString().slice(0, 10)
				: ''
	};
	return columns.map((field) => cells[field]);
}
