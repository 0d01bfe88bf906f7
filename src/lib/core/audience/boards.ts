import { isPeopleLine, type Audience, type StudentSet } from './audience';

/** The boards that an announcement stands on: those of what its audience names as a whole. Ids, each once, in their order. */
export interface BoardsOf {
	/** Everybody of the terms that are named. */
	readonly district: boolean;
	readonly schools: readonly number[];
	readonly sections: readonly number[];
	/** Every section of a course in a term. */
	readonly courses: readonly { readonly id: number; readonly termId: number }[];
	readonly groups: readonly number[];
	/** Why there is none for it, as codes: what is meant for some is shown to nobody else. Empty where it stands everywhere it is meant for. */
	readonly notFor: readonly NoBoard[];
}

/**
 * Why something of an audience stands on no board: it is narrowed by a condition, by another line or by what
 * several picks have in common; it names single students, people, a grade, or who has not read something; or
 * whoever writes it may not write to everybody of a place.
 */
export type NoBoard = 'narrowed' | 'students' | 'people' | 'grades' | 'uncovered' | 'not-own';

/** Gathers what a set of students names as a whole; what is only a part of something is no place. */
function gather(set: StudentSet, into: Gathered): void {
	switch (set.kind) {
		case 'any':
			for (const one of set.of) gather(one, into);
			return;
		case 'all':
			// One alone is itself.
			if (set.of.length === 1) gather(set.of[0]!, into);
			else into.notFor.add('narrowed');
			return;
		case 'except':
			into.notFor.add('narrowed');
			return;
		case 'sections':
			for (const id of set.ids) into.sections.add(id);
			return;
		case 'groups':
			for (const id of set.ids) into.groups.add(id);
			return;
		case 'schools':
			for (const id of set.ids) into.schools.add(id);
			return;
		case 'terms':
			into.district = true;
			return;
		case 'courses':
			for (const id of set.ids) into.courses.set(`${id} ${set.termId}`, { id, termId: set.termId });
			return;
		case 'grades':
		case 'students':
		case 'uncovered':
			into.notFor.add(set.kind);
	}
}

interface Gathered {
	district: boolean;
	readonly schools: Set<number>;
	readonly sections: Set<number>;
	readonly courses: Map<string, { readonly id: number; readonly termId: number }>;
	readonly groups: Set<number>;
	readonly notFor: Set<NoBoard>;
}

const inOrder = (ids: Iterable<number>): number[] => [...ids].sort((a, b) => a - b);

/**
 * The boards of an audience. A board is read by all the families of its place: an announcement stands on it
 * only where the audience names the place as a whole, without a condition and with nobody taken out; what is
 * meant for some of them (those who owe a slip, those who have not read) is never told to the rest by it.
 */
export function boardsOf({ lines }: Audience): BoardsOf {
	const into: Gathered = {
		...{ district: false, schools: new Set<number>(), sections: new Set<number>() },
		...{ courses: new Map(), groups: new Set<number>(), notFor: new Set<NoBoard>() }
	};
	const takenOut = lines.some((line) => line.verb === 'but-not' && !isPeopleLine(line));
	for (const line of lines) {
		if (line.verb === 'but-not') continue;
		if (isPeopleLine(line)) into.notFor.add('people');
		else if (line.only.length > 0 || takenOut) into.notFor.add('narrowed');
		else gather(line.of, into);
	}
	return {
		district: into.district,
		schools: inOrder(into.schools),
		sections: inOrder(into.sections),
		courses: [...into.courses.values()].sort((a, b) => a.id - b.id || a.termId - b.termId),
		groups: inOrder(into.groups),
		notFor: [...into.notFor].sort()
	};
}
