import { count } from '../copy/count';
import { PartedMap } from '../parted-map';
import { rankIn } from '../sorted-numbers';
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

/** By what a dispatch's students count as covered. */
interface Ruled {
	readonly rule: CoverRule;
	readonly homes: Homes;
	/** Whether any copy goes to an adult: else a student is covered by their own reading, whatever the rule. */
	readonly adultsWrittenTo: boolean;
}

/** What a rule of coverage makes of the copies that speak of one student. */
function foldOf<T>(
	studentId: number,
	own: readonly StudentDelivery[],
	{ rule, homes, adultsWrittenTo }: Ruled,
	{ nothing, of, better, worse }: Fold<T>
): T {
	let adults = nothing;
	let student = nothing;
	/** By person, where households count. */
	const byPerson =
		rule === 'households' && adultsWrittenTo && own.length > 0 ? new Map<number, T>() : null;
	for (const delivery of own) {
		// Its reader had read by another way: says nothing by itself.
		if (delivery.state === 'spared') continue;
		const { toAdult, readers } = delivery;
		const value = of(delivery);
		if (!adultsWrittenTo || toAdult) adults = better(adults, value);
		if (rule === 'student-too' && readers.includes(studentId)) student = better(student, value);
		if (byPerson)
			for (const id of readers) byPerson.set(id, better(byPerson.get(id) ?? nothing, value));
	}
	if (!adultsWrittenTo || rule === 'adult') return adults;
	if (rule === 'student-too') return worse(adults, student);
	const ofHome = (home: readonly number[]) =>
		home.reduce<T>((best, person) => better(best, byPerson?.get(person) ?? nothing), nothing);
	// Adults who share no household of the student make one home together: that of `adults`.
	const there = homes(studentId).filter((home) => home.length > 0);
	return there.map(ofHome).reduce((a, b) => worse(a, b), adults);
}

const standingFold: Fold<StudentStanding> = {
	nothing: 'nobody',
	of: (d) => d.state as StudentStanding,
	better: (a, b) => (nearness[b] > nearness[a] ? b : a),
	worse: (a, b) => (nearness[b] < nearness[a] ? b : a)
};
const timeFold: Fold<number> = {
	nothing: Infinity,
	of: (d) => d.readAt ?? Infinity,
	better: Math.min,
	worse: Math.max
};

const noCopies: readonly StudentDelivery[] = [];

/**
 * How far the students of a dispatch are covered by its rule, kept as its copies change: only those are counted anew of whom
 * a changed copy speaks. Where a dispatch goes to students only, a student is covered when the student has read, whatever the
 * rule. Each of `studentIds` falls into exactly one of covered, waiting, unreachable. The deliveries are read as they stand.
 */
export class CoverageKept {
	readonly #byStudent = new Map<number, StudentDelivery[]>();
	readonly #ruled: Ruled;
	#standing: PartedMap<StudentStanding>;
	#times: PartedMap<number> | null = null;
	#timesInOrder: readonly number[] | null = null;
	#covered = 0;
	#unreachable = 0;
	/** Students whose standing has changed, as often as it has. */
	readonly #changed: number[] = [];

	constructor(
		studentIds: readonly number[],
		deliveries: readonly StudentDelivery[],
		rule: CoverRule = 'adult',
		homes: Homes = () => []
	) {
		this.#ruled = { rule, homes, adultsWrittenTo: deliveries.some((d) => d.toAdult) };
		for (const delivery of deliveries) {
			const own = this.#byStudent.get(delivery.studentId);
			if (own) own.push(delivery);
			else this.#byStudent.set(delivery.studentId, [delivery]);
		}
		this.#standing = PartedMap.of(studentIds, (id) => {
			const now = this.#fold(id, standingFold);
			this.#count(now, 1);
			return now;
		});
	}

	#fold<T>(studentId: number, fold: Fold<T>): T {
		return foldOf(studentId, this.#byStudent.get(studentId) ?? noCopies, this.#ruled, fold);
	}
	#count(standing: StudentStanding, by: 1 | -1): void {
		if (standing === 'nobody' || standing === 'failed') this.#unreachable += by;
		else if (isCovered(standing)) this.#covered += by;
	}

	/** Counts some students anew, of whom changed copies speak; what was given out before stays as it was. */
	countAnew(studentIds: Iterable<number>): void {
		const standings = new Map<number, StudentStanding>();
		const times = new Map<number, number>();
		for (const id of new Set(studentIds)) {
			const before = this.#standing.get(id);
			if (before === undefined) continue;
			if (this.#times) times.set(id, this.#fold(id, timeFold));
			const now = this.#fold(id, standingFold);
			if (now === before) continue;
			this.#count(before, -1);
			this.#count(now, 1);
			standings.set(id, now);
			this.#changed.push(id);
		}
		this.#standing = this.#standing.with(standings);
		if (!this.#times) return;
		this.#timesInOrder &&= movedInOrder(this.#timesInOrder, times, this.#times);
		this.#times = this.#times.with(times);
	}

	/** How far they are covered now. */
	get coverage(): Coverage {
		const students = this.#standing.size;
		return {
			...{ students, covered: this.#covered, unreachable: this.#unreachable },
			waiting: students - this.#covered - this.#unreachable,
			standing: this.#standing
		};
	}
	/** How often a standing has changed since it was first counted. */
	get changes(): number {
		return this.#changed.length;
	}
	/** The students whose standing has changed since there were so many changes, up to now. */
	changedSince(changes: number): readonly number[] {
		return this.#changed.slice(changes);
	}
	/** When each came to be covered (instant, ms); Infinity for those who are not. Worked out when it is first asked for. */
	get times(): ReadonlyMap<number, number> {
		return (this.#times ??= PartedMap.of(this.#standing.keys(), (id) => this.#fold(id, timeFold)));
	}
	/** When those came to be covered who are (instants, ms), the first first. */
	get timesInOrder(): readonly number[] {
		return (this.#timesInOrder ??= [...this.times.values()]
			.filter(Number.isFinite)
			.sort((a, b) => a - b));
	}
}

/** Instants in order, with some exchanged that were others before. */
function movedInOrder(
	inOrder: readonly number[],
	times: ReadonlyMap<number, number>,
	before: ReadonlyMap<number, number>
): readonly number[] {
	const next = [...inOrder];
	for (const [id, time] of times) {
		const was = before.get(id)!;
		if (was === time) continue;
		if (Number.isFinite(was)) next.splice(rankIn(next, was) - 1, 1);
		if (Number.isFinite(time)) next.splice(rankIn(next, time), 0, time);
	}
	return next;
}

/** How far students are covered; see {@link CoverageKept}. */
export const coverageOf = (
	studentIds: readonly number[],
	deliveries: readonly StudentDelivery[],
	rule: CoverRule = 'adult',
	homes: Homes = () => []
): Coverage => new CoverageKept(studentIds, deliveries, rule, homes).coverage;

/** Whether a standing counts as covered. */
export const isCovered = (standing: StudentStanding): boolean =>
	standing === 'read' || standing === 'answered';

/** What a coverage counts: students, or people where a dispatch speaks of no student. */
export type CoverageUnit = 'students' | 'people';

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
