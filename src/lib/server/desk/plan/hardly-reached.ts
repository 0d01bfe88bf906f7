import { studentsLeft, whyLeft } from '../../../core/plan/students-left';
import { ways as allWays, type Way } from '../../../core/roster/way';
import { nameOf } from '../../../core/roster/relation';
import type { CopyAhead } from '../../../core/track/expect/families';
import type { EachOne } from '../../../core/track/expect/reading-model';
import { wayThings } from '../../../core/track/habit';
import type { Expecting } from '../expect/expecting';
import type { Planned } from './plan-sheet';
import type { HardlyReached } from '../expect/types';

/** So many are named; how many there are besides is said. */
const mostNamed = 8;
/** Likelier than not to stay uncovered. */
const hardly = 0.5;

/** How somebody has read what they were sent by these ways: "read 0 of 9 emails, 1 of 4 texts". */
function readSoFar(eachOne: EachOne, personId: number, ways: readonly Way[]): string {
	const seen = ways.flatMap((way) => {
		const habit = eachOne[way].get(personId);
		return habit && habit.copies > 0 ? [`${habit.read} of ${habit.copies} ${wayThings[way]}`] : [];
	});
	return seen.length === 0 ? 'nothing sent by these ways yet' : `read ${seen.join(', ')}`;
}

/** Whom even this will hardly reach, the least likely first, and why. */
export function hardlyReached(
	{ manifest, roster }: Planned,
	{ students }: Expecting,
	eachOne: EachOne,
	chances: readonly number[]
): HardlyReached {
	const found = students
		.map(({ studentId, copies }, i) => ({ studentId, copies, chance: chances[i]! }))
		.filter((s) => s.chance < hardly)
		.sort((a, b) => a.chance - b.chance || a.studentId - b.studentId);
	const left = new Map(studentsLeft(manifest).map((s) => [s.studentId, s]));
	const name = (id: number) => nameOf(roster, id);
	const why = (studentId: number, copies: readonly CopyAhead[]): string => {
		const nobody = left.get(studentId);
		if (nobody) return whyLeft(nobody, name, []);
		const people = [...new Set(copies.map((c) => c.personId))];
		return people
			.map((id) => {
				const ways = allWays.filter((w) => copies.some((c) => c.personId === id && c.way === w));
				return `${name(id)}: ${readSoFar(eachOne, id, ways)}`;
			})
			.join('; ');
	};
	return {
		students: found.length,
		lines: found.slice(0, mostNamed).map(({ studentId, copies, chance }) => ({
			studentId,
			name: name(studentId),
			section: roster.section(manifest.sectionOf.get(studentId) ?? 0)?.name ?? '',
			why: why(studentId, copies),
			chance
		}))
	};
}
