import { isCovered, type CoverageKept, type StudentStanding } from '../../../core/track/coverage';
import type { DispatchCoverage } from '../track/coverage';
import type { FieldStudent } from './types';

/** How the students of a part of a dispatch stand. */
export interface PartTally {
	students: number;
	covered: number;
	/** Every copy failed, or there is none. */
	unreachable: number;
}

/** What parts there are, by what each is called. */
type Parts<K> = Map<K, PartTally>;

const isUnreachable = (standing: StudentStanding): boolean =>
	standing === 'failed' || standing === 'nobody';

/**
 * How the students of a dispatch stand, by section, by school and by language. Kept while evidence
 * comes in: one more event changes the few sums that it is about, however many students there are.
 */
export class FieldTally {
	readonly bySection: Parts<number> = new Map();
	readonly bySchool: Parts<string> = new Map();
	readonly byLanguage: Parts<string> = new Map();
	/** What it follows; another count of the same dispatch is another thing. */
	readonly #of: CoverageKept;
	/** How many changes of it are in the sums. */
	#changes: number;
	/** The parts each student is in, and as what they were counted. */
	readonly #students = new Map<
		number,
		{ readonly parts: PartTally[]; standing: StudentStanding }
	>();

	constructor(
		students: readonly FieldStudent[],
		languages: ReadonlyMap<number, string>,
		{ kept, changes, standing }: DispatchCoverage
	) {
		this.#of = kept;
		this.#changes = changes;
		const partIn = <K>(all: Parts<K>, name: K): PartTally => {
			let part = all.get(name);
			if (!part) all.set(name, (part = { students: 0, covered: 0, unreachable: 0 }));
			part.students += 1;
			return part;
		};
		for (const s of students) {
			const parts = [
				partIn(this.bySection, s.sectionId),
				partIn(this.bySchool, s.school),
				partIn(this.byLanguage, languages.get(s.studentId) ?? s.language)
			];
			const now = standing.get(s.studentId) ?? 'nobody';
			this.#students.set(s.studentId, { parts, standing: now });
			count(parts, now, 1);
		}
	}

	/** Whether it holds more than a coverage of the same count. */
	isNewer({ kept, changes }: DispatchCoverage): boolean {
		return kept === this.#of && changes < this.#changes;
	}

	/** Takes in what has changed until a coverage. Says whether it could: one of before what is in the sums already, or of another count, it cannot follow. */
	follow(coverage: DispatchCoverage): boolean {
		const { kept, changes, standing } = coverage;
		if (kept !== this.#of || this.isNewer(coverage)) return false;
		for (const id of new Set(kept.changedSince(this.#changes))) {
			const student = this.#students.get(id);
			if (!student) continue;
			count(student.parts, student.standing, -1);
			student.standing = standing.get(id)!;
			count(student.parts, student.standing, 1);
		}
		this.#changes = changes;
		return true;
	}
}

function count(parts: readonly PartTally[], standing: StudentStanding, by: 1 | -1): void {
	for (const part of parts) {
		if (isCovered(standing)) part.covered += by;
		if (isUnreachable(standing)) part.unreachable += by;
	}
}
