import { neverMeant } from '../../../core/audience/reasons';
import type { Homes, StudentDelivery } from '../../../core/track/coverage';
import { groupBy } from '../../../core/group-by';
import type { LeftOutRow, LeftOutStudentRow } from '../../db/models/dispatch';
import type { HouseholdMemberRow } from '../../db/models/roster';
import type { Query } from '../../db/open';

/** Of each student of a dispatch, the adults of each household who were meant, reached or not. */
export async function homesOf(
	db: Query,
	dispatchId: number,
	deliveries: readonly Pick<StudentDelivery, 'studentId' | 'readers'>[]
): Promise<Homes> {
	const meant = new Map<number, Set<number>>();
	const add = (studentId: number, personId: number) => {
		let people = meant.get(studentId);
		if (!people) meant.set(studentId, (people = new Set()));
		people.add(personId);
	};
	for (const d of deliveries) d.readers.forEach((id) => add(d.studentId, id));
	const leftOut = await db.all<Pick<LeftOutStudentRow, 'studentId'> & Pick<LeftOutRow, 'personId'>>(
		`SELECT student_id AS studentId, person_id AS personId
		FROM left_out JOIN left_out_student ON left_out_id = left_out.id
		WHERE dispatch_id = $id AND NOT EXISTS (SELECT 1 FROM json_each(reasons) AS reason
			WHERE reason.value ->> 'code' IN (SELECT value FROM json_each($notMeant)))`,
		{ id: dispatchId, notMeant: JSON.stringify(neverMeant) }
	);
	for (const { studentId, personId } of leftOut) add(studentId, personId);
	const members = groupBy(
		await db.all<
			Pick<HouseholdMemberRow, 'householdId' | 'personId'> & {
				studentId: HouseholdMemberRow['personId'];
			}
		>(
			`SELECT mine.person_id AS studentId, mine.household_id AS householdId, other.person_id AS personId
			FROM dispatch_student JOIN household_member AS mine ON mine.person_id = student_id
			JOIN household_member AS other ON other.household_id = mine.household_id
			JOIN person ON person.id = other.person_id AND kind = 'adult'
			WHERE dispatch_id = $id`,
			{ id: dispatchId }
		),
		(m) => m.studentId
	);
	return (studentId) => {
		const people = meant.get(studentId) ?? new Set();
		return [...groupBy(members.get(studentId) ?? [], (m) => m.householdId).values()].map((home) =>
			home.map((m) => m.personId).filter((id) => people.has(id))
		);
	};
}
