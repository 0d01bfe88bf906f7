import type { As } from './people';
import type { TakePair } from './pairs';
import type { Reason } from './reasons';
import type { LineCount, OutByLine } from './resolved';

/** Why a person is in, while lines are still being worked. Few people have more than a handful: a list is quicker than a map. */
interface Draft {
	readonly studentId: number | null;
	readonly as: As;
	readonly word: string | null;
	readonly line: number | null;
	also: number[];
}
interface Passed {
	readonly studentId: number | null;
	reason: Reason;
}
const noLines: number[] = [];

/** What of a list is about one student. */
export const forStudent = <T extends { readonly studentId: number | null }>(
	list: readonly T[] | undefined,
	studentId: number | null
): T | undefined => {
	if (list) for (const item of list) if (item.studentId === studentId) return item;
	return undefined;
};

/** Who is meant for whom while the lines of an audience are worked, one after another. */
export interface Ledger {
	/** People, with why each is in. */
	readonly pairs: Map<number, Draft[]>;
	/** People who were passed over, with the reason. */
	readonly passed: Map<number, Passed[]>;
	/** What lines have taken out again. */
	readonly out: OutByLine[];
	/** Students somebody was meant for. */
	readonly students: Set<number>;
}

/** One line of an audience, as it is worked. */
interface Worked {
	/** Its place, counted from 0. */
	readonly line: number;
	readonly eachPair: (take: TakePair) => void;
	/** Whether its conditions hold for somebody; null where it has none. */
	readonly fits: ((personId: number, studentId: number | null) => boolean) | null;
}

/** Adds a line's people; comes to how many it means and how many of them were all in before. */
export function addLine(
	{ pairs, passed, students }: Ledger,
	{ line, eachPair, fits }: Worked
): LineCount {
	/** Person → whether the line brings anything that was not there before it. */
	const people = new Map<number, boolean>();
	eachPair((personId, studentId, as, word, passedOver) => {
		if (fits && !fits(personId, studentId)) return;
		if (studentId !== null) students.add(studentId);
		if (passedOver) {
			const list = passed.get(personId);
			const before = forStudent(list, studentId);
			if (before) before.reason = passedOver;
			else if (list) list.push({ studentId, reason: passedOver });
			else passed.set(personId, [{ studentId, reason: passedOver }]);
			return;
		}
		const because = pairs.get(personId);
		const before = forStudent(because, studentId);
		if (!before) {
			const draft: Draft = { studentId, as, word, line, also: noLines };
			if (because) because.push(draft);
			else pairs.set(personId, [draft]);
			people.set(personId, true);
			return;
		}
		if (!people.has(personId)) people.set(personId, false);
		if (before.line !== line && before.also.at(-1) !== line) {
			before.also = [...before.also, line];
		}
	});
	let already = 0;
	for (const brings of people.values()) if (!brings) already += 1;
	return { people: people.size, already };
}

/**
 * Takes a line's pairs out; comes to how many people it takes a student away from, or takes out
 * whole. Whom the line passes over it leaves in, if another line means them; but where nothing more
 * than passing over is left of a pair, the line has it, and nobody need be told of a student who was
 * not meant.
 */
export function takeLineOut(
	{ pairs, passed, out }: Ledger,
	{ line, eachPair, fits }: Worked
): number {
	const people = new Set<number>();
	const takeFrom = <T extends { readonly studentId: number | null }>(
		map: Map<number, T[]>,
		personId: number,
		studentId: number | null
	): boolean => {
		const list = map.get(personId);
		if (!list || list.length === 0) return false;
		// Meant for themselves, they are taken out for everyone.
		const left = studentId === null ? [] : list.filter((b) => b.studentId !== studentId);
		if (left.length === list.length) return false;
		map.set(personId, left);
		for (const gone of list) {
			if (gone.studentId === null || left.includes(gone)) continue;
			out.push({ personId, studentId: gone.studentId, line });
		}
		return true;
	};
	eachPair((personId, studentId, _as, _word, passedOver) => {
		if (fits && !fits(personId, studentId)) return;
		takeFrom(passed, personId, studentId);
		if (!passedOver && takeFrom(pairs, personId, studentId)) people.add(personId);
	});
	return people.size;
}
