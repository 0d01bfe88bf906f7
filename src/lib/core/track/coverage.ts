import { hasRead, type DeliveryState } from './evidence';

/** One delivery seen from one student it speaks of. */
export interface StudentDelivery {
	readonly studentId: number;
	readonly state: DeliveryState;
	/** Whether the copy goes to an adult (also when it is shared with one). */
	readonly toAdult: boolean;
}

/** What a student's ring shows: the furthest any copy for this student has come. `nobody`: no copy speaks of the student. */
export type StudentStanding = DeliveryState | 'nobody';

export interface Coverage {
	readonly students: number;
	readonly covered: number;
	/** Not covered, and at least one copy is still under way or lies unread. */
	readonly waiting: number;
	/** Not covered, and every copy failed or there is none. */
	readonly unreachable: number;
	readonly standing: ReadonlyMap<number, StudentStanding>;
}

/** In a ring, a copy that may still be read says more than one that failed. */
const nearness: Readonly<Record<DeliveryState, number>> = {
	failed: 0,
	held: 1,
	planned: 1,
	sent: 2,
	delivered: 3,
	read: 4,
	answered: 5
};

/**
 * Coverage of a dispatch. A student is covered when an adult written to for this student has read;
 * where a dispatch goes to students only, when the student has read. Each of `studentIds` falls
 * into exactly one of covered, waiting, unreachable.
 */
export function coverageOf(
	studentIds: readonly number[],
	deliveries: readonly StudentDelivery[]
): Coverage {
	const adultsWrittenTo = deliveries.some((d) => d.toAdult);
	const standing = new Map<number, StudentStanding>(studentIds.map((id) => [id, 'nobody']));
	for (const { studentId, state, toAdult } of deliveries) {
		if (adultsWrittenTo && !toAdult) continue;
		const now = standing.get(studentId);
		if (now === undefined) continue;
		if (now === 'nobody' || nearness[state] > nearness[now]) standing.set(studentId, state);
	}
	let covered = 0;
	let unreachable = 0;
	for (const state of standing.values()) {
		if (state === 'nobody' || state === 'failed') unreachable += 1;
		else if (hasRead(state)) covered += 1;
	}
	return {
		students: standing.size,
		covered,
		waiting: standing.size - covered - unreachable,
		unreachable,
		standing
	};
}

/** What a coverage counts: students, or people where a dispatch speaks of no student. */
export type CoverageUnit = 'students' | 'people';

/** Coverage of a dispatch that speaks of no student, staff among themselves: each person by the furthest of their copies. */
export const coverageOfPeople = (
	copies: readonly { readonly personId: number; readonly state: DeliveryState }[]
): Coverage =>
	coverageOf(
		[...new Set(copies.map((c) => c.personId))],
		copies.map((c) => ({ studentId: c.personId, state: c.state, toAdult: true }))
	);

/** "17 of 23 students covered", "6 of 14 people have read it". */
export function coveredWords(covered: number, all: number, unit: CoverageUnit): string {
	if (unit === 'people') {
		return `${covered} of ${all} ${all === 1 ? 'person has' : 'people have'} read it`;
	}
	return `${covered} of ${all} ${all === 1 ? 'student' : 'students'} covered`;
}

/** The first sentence of Reach: numbers first, only the parts that are not zero. */
export function coverageSentence(c: Coverage, unit: CoverageUnit = 'students'): string {
	const parts = [coveredWords(c.covered, c.students, unit)];
	if (c.waiting > 0) parts.push(`${c.waiting} waiting`);
	if (c.unreachable > 0) parts.push(`${c.unreachable} cannot be reached`);
	return parts.join(', ');
}
