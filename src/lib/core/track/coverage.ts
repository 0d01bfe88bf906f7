import { count } from '../copy/count';
import type { DeliveryState } from './evidence';

/**
 * Who must have read before a student counts as covered: one adult written to for the student; one
 * in each of the student's households; or an adult, and the student as well.
 */
export type CoverRule = 'adult' | 'households' | 'student-too';
export const coverRules: readonly CoverRule[] = ['adult', 'households', 'student-too'];

/** A rule as a phrase after "covered when". */
export const coverWords: Readonly<Record<CoverRule, string>> = {
	adult: 'one adult written to has read',
	households: 'an adult in each household has read',
	'student-too': 'an adult and the student have read'
};

/** One delivery seen from one student it speaks of. */
export interface StudentDelivery {
	readonly studentId: number;
	readonly state: DeliveryState;
	/** Everyone who reads this copy: whom it is addressed to, and who shares the address. */
	readonly readers: readonly number[];
	/** Whether the copy goes to an adult (also when it is shared with one). */
	readonly toAdult: boolean;
	/** When it was first read (instant, ms), or null. */
	readonly readAt: number | null;
}

/** The adults of each household of a student who were meant to be written to, reached or not. */
export type Homes = (studentId: number) => readonly (readonly number[])[];

/** What a student's ring shows: the furthest any copy for this student has come. `nobody`: no copy speaks of the student. */
export type StudentStanding = Exclude<DeliveryState, 'spared'> | 'nobody';

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
const nearness: Readonly<Record<StudentStanding, number>> = {
	nobody: 0,
	failed: 1,
	held: 2,
	planned: 2,
	sent: 3,
	delivered: 4,
	read: 5,
	answered: 6
};

/** How what is known of single copies comes together: over the copies of one home the best counts, over homes that must all have read the worst. */
interface Fold<T> {
	/** Of whom no copy speaks. */
	readonly nothing: T;
	of(delivery: StudentDelivery): T;
	better(a: T, b: T): T;
	worse(a: T, b: T): T;
}

/** What a rule of coverage makes of a dispatch's copies, for each student. */
function byRule<T>(
	studentIds: readonly number[],
	deliveries: readonly StudentDelivery[],
	rule: CoverRule,
	homes: Homes,
	{ nothing, of, better, worse }: Fold<T>
): Map<number, T> {
	const adultsWrittenTo = deliveries.some((d) => d.toAdult);
	const byAdults = new Map<number, T>(studentIds.map((id) => [id, nothing]));
	const byStudent = new Map<number, T>();
	/** By student and person, where households count. */
	const byPerson = new Map<number, Map<number, T>>();
	for (const delivery of deliveries) {
		const { studentId, state, toAdult, readers } = delivery;
		// Its reader had read by another way: says nothing by itself.
		if (state === 'spared') continue;
		const now = byAdults.get(studentId);
		if (now === undefined) continue;
		const value = of(delivery);
		if (!adultsWrittenTo || toAdult) byAdults.set(studentId, better(now, value));
		if (rule === 'student-too' && readers.includes(studentId)) {
			byStudent.set(studentId, better(byStudent.get(studentId) ?? nothing, value));
		}
		if (rule === 'households') {
			let people = byPerson.get(studentId);
			if (!people) byPerson.set(studentId, (people = new Map()));
			for (const id of readers) people.set(id, better(people.get(id) ?? nothing, value));
		}
	}
	if (!adultsWrittenTo || rule === 'adult') return byAdults;
	const result = new Map<number, T>();
	for (const [id, adults] of byAdults) {
		if (rule === 'student-too') {
			result.set(id, worse(adults, byStudent.get(id) ?? nothing));
			continue;
		}
		const people = byPerson.get(id);
		const ofHome = (home: readonly number[]) =>
			home.reduce<T>((best, person) => better(best, people?.get(person) ?? nothing), nothing);
		// Adults who share no household of the student make one home together: that of `adults`.
		const there = homes(id).filter((home) => home.length > 0);
		result.set(
			id,
			there.map(ofHome).reduce((a, b) => worse(a, b), adults)
		);
	}
	return result;
}

/**
 * Coverage of a dispatch by its rule. Where a dispatch goes to students only, a student is covered
 * when the student has read, whatever the rule. Each of `studentIds` falls into exactly one of
 * covered, waiting, unreachable.
 */
export function coverageOf(
	studentIds: readonly number[],
	deliveries: readonly StudentDelivery[],
	rule: CoverRule = 'adult',
	homes: Homes = () => []
): Coverage {
	const standing = byRule<StudentStanding>(studentIds, deliveries, rule, homes, {
		nothing: 'nobody',
		of: (d) => d.state as StudentStanding,
		better: (a, b) => (nearness[b] > nearness[a] ? b : a),
		worse: (a, b) => (nearness[b] < nearness[a] ? b : a)
	});
	let covered = 0;
	let unreachable = 0;
	for (const state of standing.values()) {
		if (state === 'nobody' || state === 'failed') unreachable += 1;
		else if (isCovered(state)) covered += 1;
	}
	return {
		students: standing.size,
		covered,
		waiting: standing.size - covered - unreachable,
		unreachable,
		standing
	};
}

/** When each student came to be covered (instant, ms); Infinity for those who are not. */
export const coveredTimes = (
	studentIds: readonly number[],
	deliveries: readonly StudentDelivery[],
	rule: CoverRule = 'adult',
	homes: Homes = () => []
): Map<number, number> =>
	byRule(studentIds, deliveries, rule, homes, {
		nothing: Infinity,
		of: (d) => d.readAt ?? Infinity,
		better: Math.min,
		worse: Math.max
	});

/** Whether a standing counts as covered. */
export const isCovered = (standing: StudentStanding): boolean =>
	standing === 'read' || standing === 'answered';

/** What a coverage counts: students, or people where a dispatch speaks of no student. */
export type CoverageUnit = 'students' | 'people';

/** Copies of a dispatch that speaks of no student, staff among themselves, seen as if each person were the student: covered by their own reading. */
export const asOwn = (
	copies: readonly {
		readonly personId: number;
		readonly state: DeliveryState;
		readonly readAt: number | null;
	}[]
): StudentDelivery[] =>
	copies.map(({ personId, state, readAt }) => ({
		studentId: personId,
		state,
		readers: [personId],
		toAdult: true,
		readAt
	}));

/** "17 of 23 students covered", "6 of 14 people have read it". */
export function coveredWords(covered: number, all: number, unit: CoverageUnit): string {
	if (unit === 'people') {
		return `${count(covered)} of ${count(all)} ${all === 1 ? 'person has' : 'people have'} read it`;
	}
	return `${count(covered)} of ${count(all)} ${all === 1 ? 'student' : 'students'} covered`;
}

/** The first sentence of Reach: numbers first, only the parts that are not zero. */
export function coverageSentence(c: Coverage, unit: CoverageUnit = 'students'): string {
	const parts = [coveredWords(c.covered, c.students, unit)];
	if (c.waiting > 0) parts.push(`${count(c.waiting)} waiting`);
	if (c.unreachable > 0) parts.push(`${count(c.unreachable)} cannot be reached`);
	return parts.join(', ');
}
