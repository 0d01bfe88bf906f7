import type { Manifest, PlannedCopy } from '../../../core/plan/manifest';
import { markersNamed } from '../../../core/copy/fields';
import type { Wording } from '../../../core/copy/words';
import { fullName, type Roster } from '../../../core/roster/roster';
import { copyFacts, type CopyFacts, type StudentFacts } from '../../../core/copy/values';
import type { User } from '../../access/user';
import type { Clocks } from '../../../core/time/clocks';
import { readClocks } from '../../db/school-own';
import { factBook, zoneOfStudents, type FactBook } from '../../db/copy-facts';
import { marksOf } from '../../db/markers';
import type { Query } from '../../db/open';
import { markersThere } from '../audience/markers-seen';

/** What planned copies can say: of sections and schools, and of the markers that the wording speaks of and its writer may use. */
export interface PlanBook extends FactBook {
	readonly marks: ReadonlyMap<number, ReadonlyMap<number, string>>;
	readonly clocks: Clocks;
}

export async function planBook(db: Query, user: User, wording: Wording): Promise<PlanBook> {
	const named = markersNamed(JSON.stringify(wording));
	return {
		...(await factBook(db)),
		clocks: await readClocks(db),
		marks: await marksOf(db, await markersThere(db, user, named))
	};
}

const noMarks: ReadonlyMap<number, string> = new Map();

/** What markers say of one student. */
function marksOfStudent({ marks }: PlanBook, studentId: number): ReadonlyMap<number, string> {
	if (marks.size === 0) return noMarks;
	const said = [...marks].map(([marker, of]) => [marker, of.get(studentId)] as const);
	return new Map(said.flatMap(([marker, value]) => (value === undefined ? [] : [[marker, value]])));
}

/** What a planned copy can say of a student; null of one whom the roster does not know. */
export function plannedStudent(
	roster: Roster,
	book: PlanBook,
	{ sectionOf }: Pick<Manifest, 'sectionOf'>,
	id: number
): Omit<StudentFacts, 'own'> | null {
	const student = roster.person(id);
	if (!student) return null;
	const sectionId = sectionOf.get(id) ?? null;
	return {
		id,
		given: student.givenName,
		full: fullName(student),
		grade: student.gradeLevel,
		school: student.schoolId === null ? null : (book.schools.get(student.schoolId) ?? null),
		section: sectionId === null ? null : (book.sections.get(sectionId) ?? null),
		marks: marksOfStudent(book, id)
	};
}

/** What a planned copy can say of its recipient: the same as `deliveryFacts` says of it once it is written down. */
export function plannedFacts(
	roster: Roster,
	book: PlanBook,
	manifest: Pick<Manifest, 'sectionOf'>,
	copy: Pick<PlannedCopy, 'personId' | 'studentIds'>
): CopyFacts {
	const reader = roster.person(copy.personId) ?? { givenName: '', familyName: '' };
	const students = copy.studentIds.flatMap((id) => roster.person(id) ?? []);
	return copyFacts(
		{
			...reader,
			zone: roster.ownTime(copy.personId)?.zone ?? zoneOfStudents(book.clocks, students)
		},
		copy.studentIds.flatMap((id) => {
			const student = plannedStudent(roster, book, manifest, id);
			return student ? [{ ...student, own: id === copy.personId }] : [];
		})
	);
}
