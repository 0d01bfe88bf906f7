import { tiesOf } from '../audience/people';
import { reasonsText, type Reason } from '../audience/reasons';
import { fullName, type Roster } from '../roster/roster';
import { ways, type Way } from '../roster/way';
import { usableBy } from './usable-address';

/**
 * How well families can be reached before anything is sent: by the same rules by which a dispatch is
 * planned. Asked are the adults who are written to by the usual duty of a school, guardians with
 * custody who are marked to receive correspondence.
 */

/** Ways as one number, so that a district is looked over once and kept small: 1, 2, 4 by their order. */
const bitOf: Readonly<Record<Way, number>> = { email: 1, text: 2, inbox: 4 };
const anyTerm: ReadonlySet<number> = new Set();

/** How many students there are, and for how many of them somebody can be reached. */
export interface Reachable {
	readonly students: number;
	/** Students with at least one adult who can be reached by this way. */
	readonly by: Readonly<Record<Way, number>>;
	/** Students with nobody who can be reached by any way. */
	readonly none: number;
}

/** The same for the students of whom an adult reads a language, the most usual first. A student whose adults read two languages counts in both. */
export interface ReachableIn extends Reachable {
	/** BCP 47; empty for students with no adult to be written to. */
	readonly language: string;
}

interface Looked {
	readonly mask: number;
	/** Languages of the adults who are to be written to, each once. */
	readonly languages: readonly string[];
}
const kept = new WeakMap<Roster, Map<number, Looked>>();
const nobody: Looked = { mask: 0, languages: [''] };

/** What a student's adults come to. A roster never changes, so what was found is kept with it. */
function looked(roster: Roster, studentId: number): Looked {
	let known = kept.get(roster);
	if (!known) kept.set(roster, (known = new Map()));
	const before = known.get(studentId);
	if (before) return before;
	const usable = usableBy(roster, { kind: 'message', urgent: false });
	let mask = 0;
	const languages: string[] = [];
	tiesOf(roster, { kind: 'guardians' }, studentId, anyTerm, (personId, _s, _as, _word, passed) => {
		const adult = roster.person(personId);
		if (passed !== null || !adult) return;
		const by = usable(personId);
		for (const way of ways) if (!('reason' in by[way])) mask |= bitOf[way];
		if (!languages.includes(adult.language)) languages.push(adult.language);
	});
	const found = languages.length === 0 ? nobody : { mask, languages };
	known.set(studentId, found);
	return found;
}

/** By how a student can be reached: by a way, by none, or any of all. */
export type ReachedBy = Way | 'none' | 'all';

/** Whether somebody can be reached for a student by a way; by none at all. */
export function isReachable(roster: Roster, studentId: number, by: ReachedBy): boolean {
	const { mask } = looked(roster, studentId);
	return by === 'all' || (by === 'none' ? mask === 0 : (mask & bitOf[by]) !== 0);
}

/** Whether one of a student's adults reads a language; '' asks for students with no adult to be written to. */
export const hasAdultReading = (roster: Roster, studentId: number, language: string): boolean =>
	looked(roster, studentId).languages.includes(language);

class Count {
	students = 0;
	none = 0;
	readonly by: Record<Way, number> = { email: 0, text: 0, inbox: 0 };
	add(mask: number): void {
		this.students += 1;
		if (mask === 0) this.none += 1;
		for (const way of ways) if ((mask & bitOf[way]) !== 0) this.by[way] += 1;
	}
	get plain(): Reachable {
		const { students, by, none } = this;
		return { students, by: { ...by }, none };
	}
}

/** How well some students' families can be reached, each student once; in all and by language. */
export function reachable(
	roster: Roster,
	studentIds: Iterable<number>
): { readonly all: Reachable; readonly languages: readonly ReachableIn[] } {
	const all = new Count();
	const languages = new Map<string, Count>();
	for (const id of new Set(studentIds)) {
		const one = looked(roster, id);
		all.add(one.mask);
		for (const tag of one.languages) {
			let count = languages.get(tag);
			if (!count) languages.set(tag, (count = new Count()));
			count.add(one.mask);
		}
	}
	return {
		all: all.plain,
		languages: [...languages]
			.map(([language, count]) => ({ language, ...count.plain }))
			.sort((a, b) => b.students - a.students || (a.language < b.language ? -1 : 1))
	};
}

/** An adult of a student, and by which ways they can be reached. */
export interface ReachableAdult {
	readonly personId: number;
	readonly name: string;
	readonly relation: string;
	readonly by: readonly Way[];
	/** Why by none, or why they are not written to at all; empty where some way works. */
	readonly why: string;
}

/** Every guardian of a student with how they can be reached, or why not: what stands behind one student's number. */
export function adultsOf(roster: Roster, studentId: number): ReachableAdult[] {
	const usable = usableBy(roster, { kind: 'message', urgent: false });
	const adults: ReachableAdult[] = [];
	tiesOf(roster, { kind: 'guardians' }, studentId, anyTerm, (personId, _s, _as, word, passed) => {
		const adult = roster.person(personId);
		if (!adult) return;
		const found = usable(personId);
		const by = passed ? [] : ways.filter((way) => !('reason' in found[way]));
		const reasons: Reason[] = passed
			? [passed]
			: ways.flatMap((way) => {
					const one = found[way];
					return 'reason' in one ? one.reason : [];
				});
		adults.push({
			...{ personId, name: fullName(adult), relation: word ?? '', by },
			why: by.length > 0 ? '' : reasonsText(reasons)
		});
	});
	return adults;
}
