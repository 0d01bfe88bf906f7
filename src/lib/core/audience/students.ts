import type { Roster } from '../roster/roster';
import { picksIn, type Pick, type StudentSet } from './audience';
import { noFacts, type Facts } from './facts';

/** The students of one pick, each once, in the roster's order. What is no longer on the roster contributes nobody. */
function studentsOfPick(roster: Roster, pick: Pick, facts: Facts): Set<number> {
	const students = new Set<number>();
	const add = (ids: readonly number[]) => ids.forEach((id) => students.add(id));
	switch (pick.kind) {
		case 'sections':
			pick.ids.forEach((id) => add(roster.studentsIn(id)));
			break;
		case 'courses':
			for (const id of pick.ids) {
				for (const section of roster.sectionsOfCourse(id)) {
					if (section.termId === pick.termId) add(roster.studentsIn(section.id));
				}
			}
			break;
		case 'terms':
			for (const id of pick.ids) {
				roster.sectionsOfTerm(id).forEach((section) => add(roster.studentsIn(section.id)));
			}
			break;
		case 'schools':
			pick.ids.forEach((id) => add(roster.studentsOfSchool(id)));
			break;
		case 'grades':
			pick.levels.forEach((level) => add(roster.studentsOfGrade(level)));
			break;
		case 'groups':
			pick.ids.forEach((id) => add(roster.studentsOfGroup(id)));
			break;
		case 'students':
			add(pick.ids.filter((id) => roster.person(id)?.kind === 'student'));
			break;
		case 'uncovered':
			pick.ids.forEach((id) => add(facts.uncovered(id)));
	}
	return students;
}

/** The students of a set. All of nothing is nobody: an empty line must never come to mean everyone. */
export function studentsOfSet(
	roster: Roster,
	set: StudentSet,
	facts: Facts = noFacts
): Set<number> {
	switch (set.kind) {
		case 'any': {
			const students = new Set<number>();
			for (const part of set.of) {
				studentsOfSet(roster, part, facts).forEach((id) => students.add(id));
			}
			return students;
		}
		case 'all': {
			const [first, ...rest] = set.of.map((part) => studentsOfSet(roster, part, facts));
			if (!first) return new Set();
			return new Set([...first].filter((id) => rest.every((part) => part.has(id))));
		}
		case 'except': {
			const minus = studentsOfSet(roster, set.minus, facts);
			return new Set([...studentsOfSet(roster, set.from, facts)].filter((id) => !minus.has(id)));
		}
		default:
			return studentsOfPick(roster, set, facts);
	}
}

/**
 * How many students a set comes to at most, without working it out: as cheap as its picks are many.
 * Those of earlier dispatches, which the roster does not know, are not in it.
 */
export function atMost(roster: Roster, set: StudentSet): number {
	const sum = <T>(list: readonly T[], of: (item: T) => number) =>
		list.reduce((all, item) => all + of(item), 0);
	const inSections = (list: readonly { readonly id: number }[]) =>
		sum(list, (section) => roster.studentsIn(section.id).length);
	switch (set.kind) {
		case 'any':
			return sum(set.of, (part) => atMost(roster, part));
		case 'all':
			return set.of.length === 0 ? 0 : Math.min(...set.of.map((part) => atMost(roster, part)));
		case 'except':
			return atMost(roster, set.from);
		case 'sections':
			return sum(set.ids, (id) => roster.studentsIn(id).length);
		case 'courses':
			return sum(set.ids, (id) =>
				inSections(roster.sectionsOfCourse(id).filter((s) => s.termId === set.termId))
			);
		case 'terms':
			return sum(set.ids, (id) => inSections(roster.sectionsOfTerm(id)));
		case 'schools':
			return sum(set.ids, (id) => roster.studentsOfSchool(id).length);
		case 'grades':
			return sum(set.levels, (level) => roster.studentsOfGrade(level).length);
		case 'groups':
			return sum(set.ids, (id) => roster.studentsOfGroup(id).length);
		case 'students':
			return set.ids.length;
		case 'uncovered':
			return 0;
	}
}

/** How many students of an audience's picks are in more than one of the terms they speak of. */
export function studentsInSeveralTerms(
	roster: Roster,
	sets: readonly StudentSet[],
	termIds: ReadonlySet<number>
): number {
	const termsOfStudent = new Map<number, Set<number>>();
	for (const pick of sets.flatMap(picksIn)) {
		const sections =
			pick.kind === 'sections'
				? pick.ids.flatMap((id) => roster.section(id) ?? [])
				: pick.kind === 'courses'
					? pick.ids.flatMap((id) =>
							roster.sectionsOfCourse(id).filter((s) => s.termId === pick.termId)
						)
					: pick.kind === 'terms'
						? pick.ids.flatMap((id) => [...roster.sectionsOfTerm(id)])
						: [];
		for (const section of sections.filter((s) => termIds.has(s.termId))) {
			for (const id of roster.studentsIn(section.id)) {
				termsOfStudent.set(id, (termsOfStudent.get(id) ?? new Set()).add(section.termId));
			}
		}
	}
	return [...termsOfStudent.values()].filter((terms) => terms.size > 1).length;
}
