import { remembering } from './remember';
import {
	copyFacts,
	type CopyFacts,
	type SectionFacts,
	type StudentFacts
} from '../../core/copy/values';
import { readClocks } from './school-own';
import { sharedZone, type Clocks } from '../../core/time/clocks';
import { peopleVersion } from './roster';
import type { Query } from './open';
import { groupBy } from '../../core/group-by';
import type { PersonRow, SchoolRow, SectionRow, SectionStaffRow } from './models/roster';
import type { DeliveryRow } from './models/delivery';
import type { DispatchMarkRow } from './models/dispatch';

/** What copies say of sections and schools, by their ids. */
export interface FactBook {
	readonly sections: ReadonlyMap<number, SectionFacts>;
	readonly schools: ReadonlyMap<number, string>;
}

const books = remembering<FactBook>(1);

/** All sections and schools as copies speak of them; read again when the roster has changed. */
export async function factBook(db: Query): Promise<FactBook> {
	return books.get(db, String(await peopleVersion(db)), () => readBook(db));
}

async function readBook(db: Query): Promise<FactBook> {
	const staff = groupBy(
		await db.all<Pick<SectionStaffRow, 'sectionId'> & { name: string }>(
			`SELECT section_id AS sectionId, given_name || ' ' || family_name AS name
			FROM section_staff JOIN person ON person.id = person_id ORDER BY family_name, given_name`
		),
		(row) => row.sectionId
	);
	const sections = await db.all<Pick<SectionRow, 'id' | 'name' | 'period'>>(
		'SELECT id, name, period FROM section'
	);
	const schools = await db.all<Pick<SchoolRow, 'id' | 'name'>>('SELECT id, name FROM school');
	return {
		sections: new Map(
			sections.map(({ id, name, period }) => [
				id,
				{ name, period, teachers: (staff.get(id) ?? []).map((s) => s.name) }
			])
		),
		schools: new Map(schools.map((s) => [s.id, s.name]))
	};
}

/** One copy that is written down, and what it can say of its recipient. */
export interface DeliveryFacts {
	readonly facts: CopyFacts;
	/** BCP 47 tag of the language its reader wants. */
	readonly language: string;
	/** Whether it is for information only: it speaks of no student, and its reader is on the staff. */
	readonly personId: number;
}

const noMarks: ReadonlyMap<number, string> = new Map();

/** What copies say of markers, by "delivery student": as it was when they were planned, whatever a marker says today. */
async function marksOfCopies(
	db: Query,
	ids: string
): Promise<ReadonlyMap<string, ReadonlyMap<number, string>>> {
	const rows = await db.all<
		Omit<DispatchMarkRow, 'dispatchId'> & { deliveryId: DeliveryRow['id'] }
	>(
		`SELECT delivery.id AS deliveryId, dispatch_mark.student_id AS studentId, marker_id AS markerId, value
		FROM delivery JOIN delivery_student ON delivery_id = delivery.id
		JOIN dispatch_mark USING (dispatch_id, student_id)
		WHERE delivery.id IN (SELECT value FROM json_each($ids))`,
		{ ids }
	);
	const found = new Map<string, Map<number, string>>();
	for (const { deliveryId, studentId, markerId, value } of rows) {
		const key = `${deliveryId} ${studentId}`;
		found.set(key, (found.get(key) ?? new Map<number, string>()).set(markerId, value));
	}
	return found;
}

/** The clock by which those live to whom some students belong. */
export const zoneOfStudents = (
	clocks: Clocks,
	students: readonly { readonly schoolId: number | null }[]
): string =>
	sharedZone(
		clocks,
		students.flatMap((s) => s.schoolId ?? [])
	);

/** The facts of deliveries by their ids, from the rows that were written when they were planned. */
export async function deliveryFacts(
	db: Query,
	deliveryIds: readonly number[]
): Promise<ReadonlyMap<number, DeliveryFacts>> {
	const ids = JSON.stringify(deliveryIds);
	const book = await factBook(db);
	const readers = await db.all<
		Pick<DeliveryRow, 'id' | 'personId'> &
			Pick<PersonRow, 'givenName' | 'familyName' | 'language'> & { zone: string | null }
	>(
		`SELECT delivery.id, delivery.person_id AS personId, given_name AS givenName, family_name AS familyName,
			language, zone FROM delivery JOIN person ON person.id = delivery.person_id
			LEFT JOIN own_time ON own_time.person_id = delivery.person_id
		WHERE delivery.id IN (SELECT value FROM json_each($ids))`,
		{ ids }
	);
	const students = groupBy(
		await db.all<
			Pick<PersonRow, 'schoolId'> & {
				deliveryId: DeliveryRow['id'];
				studentId: PersonRow['id'];
				given: PersonRow['givenName'];
				family: PersonRow['familyName'];
				grade: PersonRow['gradeLevel'];
				sectionId: number | null;
				own: number;
			}
		>(
			`SELECT delivery.id AS deliveryId, person.id AS studentId, given_name AS given, family_name AS family,
				grade_level AS grade, school_id AS schoolId, section_id AS sectionId,
				delivery_student.student_id = delivery.person_id AS own
			FROM delivery JOIN delivery_student ON delivery_id = delivery.id
			JOIN person ON person.id = delivery_student.student_id
			LEFT JOIN dispatch_student ON dispatch_student.dispatch_id = delivery.dispatch_id
				AND dispatch_student.student_id = delivery_student.student_id
			WHERE delivery.id IN (SELECT value FROM json_each($ids))`,
			{ ids }
		),
		(row) => row.deliveryId
	);
	const marks = await marksOfCopies(db, ids);
	const clocks = await readClocks(db);
	return new Map(
		readers.map(({ id, personId, language, ...reader }) => [
			id,
			{
				personId,
				language,
				facts: copyFacts(
					{ ...reader, zone: reader.zone ?? zoneOfStudents(clocks, students.get(id) ?? []) },
					(students.get(id) ?? []).map((s): StudentFacts => ({
						id: s.studentId,
						given: s.given,
						full: `${s.given} ${s.family}`.trim(),
						grade: s.grade,
						school: s.schoolId === null ? null : (book.schools.get(s.schoolId) ?? null),
						marks: marks.get(`${id} ${s.studentId}`) ?? noMarks,
						section: s.sectionId === null ? null : (book.sections.get(s.sectionId) ?? null),
						own: s.own === 1
					}))
				)
			}
		])
	);
}
