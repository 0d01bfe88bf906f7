import { boardPhrases } from '../../../core/copy/board-phrases';
import { copyFacts, type CopyFacts, type SectionFacts } from '../../../core/copy/values';

/** What a marker says of nobody in particular. */
const anyMark: ReadonlyMap<number, string> = new (class extends Map<number, string> {
	override get(): string {
		return '…';
	}
})();

/** What an announcement can say where nobody in particular reads it, in their language: families, your student, and what is said of a place. */
export function openFacts(
	language: string,
	{
		school,
		section,
		named
	}: {
		readonly school: string;
		readonly section: SectionFacts | null;
		/** Whether those who teach may be named. */
		readonly named: boolean;
	}
): CopyFacts {
	const words = boardPhrases(language);
	return copyFacts({ givenName: words.families, familyName: '' }, [
		{
			...{ id: 0, given: words.yourStudent, full: words.yourStudent, own: false },
			...{ grade: '…', school, marks: anyMark },
			section: section && {
				...section,
				teachers: named ? section.teachers : [words.theTeacher]
			}
		}
	]);
}
