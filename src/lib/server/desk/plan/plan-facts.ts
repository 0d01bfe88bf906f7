import type { Manifest, PlannedCopy } from '../../../core/plan/manifest';
import { fullName, type Roster } from '../../../core/roster/roster';
import { copyFacts, type CopyFacts } from '../../../core/copy/values';
import type { FactBook } from '../../db/copy-facts';

/** What a planned copy can say of its recipient: the same as `deliveryFacts` says of it once it is written down. */
export function plannedFacts(
	roster: Roster,
	book: FactBook,
	manifest: Pick<Manifest, 'sectionOf'>,
	copy: Pick<PlannedCopy, 'personId' | 'studentIds'>
): CopyFacts {
	const reader = roster.person(copy.personId) ?? { givenName: '', familyName: '' };
	return copyFacts(
		{ ...reader, zone: roster.ownTime(copy.personId)?.zone ?? null },
		copy.studentIds.flatMap((id) => {
			const student = roster.person(id);
			if (!student) return [];
			const sectionId = manifest.sectionOf.get(id) ?? null;
			return [
				{
					id,
					given: student.givenName,
					full: fullName(student),
					grade: student.gradeLevel,
					school: student.schoolId === null ? null : (book.schools.get(student.schoolId) ?? null),
					section: sectionId === null ? null : (book.sections.get(sectionId) ?? null),
					own: id === copy.personId
				}
			];
		})
	);
}
