import {
	isPeopleLine,
	type AudienceLine,
	type Condition,
	type MeantKind,
	type People,
	type Pick,
	type StudentSet
} from '$lib/core/audience/audience';

/** What the panel picks students by, one list each. Courses are picked in one term, grades by their level. */
export type PickKind =
	'sections' | 'courses' | 'groups' | 'grades' | 'schools' | 'terms' | 'students' | 'uncovered';

interface Picks {
	sections: number[];
	courses: { termId: number; ids: number[] }[];
	groups: number[];
	grades: string[];
	schools: number[];
	terms: number[];
	students: number[];
	uncovered: number[];
}
const noPicks = (): Picks => ({
	sections: [],
	courses: [],
	groups: [],
	grades: [],
	schools: [],
	terms: [],
	students: [],
	uncovered: []
});

const isPick = (set: StudentSet): set is Pick =>
	set.kind !== 'any' && set.kind !== 'all' && set.kind !== 'except';

/** One line of the audience while it is being put together. */
export class Line {
	verb = $state<AudienceLine['verb']>('and');
	to = $state<MeantKind[]>([]);
	/** Whether a student must be in any of the picks, or in every one. */
	mode = $state<'any' | 'all'>('any');
	picks = $state<Picks>(noPicks());
	/** Sets inside the set: kept and shown in words; the sentence changes them. */
	nested = $state<readonly StudentSet[]>([]);
	only = $state<Condition[]>([]);
	/** People picked for themselves; null in a line of students. */
	people = $state<People | null>(null);

	constructor(line: AudienceLine) {
		this.verb = line.verb;
		this.only = [...line.only];
		if (isPeopleLine(line)) {
			this.people = line.people;
			return;
		}
		this.to = [...line.to];
		const of = line.of;
		const parts: readonly StudentSet[] = of.kind === 'any' || of.kind === 'all' ? of.of : [of];
		this.mode = of.kind === 'all' ? 'all' : 'any';
		const nested: StudentSet[] = [];
		const seen: string[] = [];
		for (const part of parts) {
			// Two lists of one kind are one in "any of", but two conditions in "all of".
			if (!isPick(part) || (this.mode === 'all' && seen.includes(part.kind))) {
				nested.push(part);
				continue;
			}
			seen.push(part.kind);
			if (part.kind === 'grades') this.picks.grades.push(...part.levels);
			else if (part.kind === 'courses') {
				this.picks.courses.push({ termId: part.termId, ids: [...part.ids] });
			} else this.picks[part.kind].push(...part.ids);
		}
		this.nested = nested;
	}

	/** How many things are picked. */
	get count(): number {
		if (this.people?.kind === 'joined') return this.people.groupIds.length;
		if (this.people) return this.people.kind === 'named' ? this.people.ids.length : 1;
		const { courses, ...lists } = this.picks;
		return (
			courses.reduce((sum, c) => sum + c.ids.length, 0) +
			Object.values(lists).reduce((sum, list) => sum + list.length, 0) +
			this.nested.length
		);
	}

	/** How many parts the set has: with two and more, any and all differ. */
	get parts(): number {
		const { courses, ...lists } = this.picks;
		return (
			courses.filter((c) => c.ids.length > 0).length +
			Object.values(lists).filter((list) => list.length > 0).length +
			this.nested.length
		);
	}

	coursesIn(termId: number): number[] {
		return this.picks.courses.find((c) => c.termId === termId)?.ids ?? [];
	}

	setCourses(termId: number, ids: number[]): void {
		this.picks.courses = [
			...this.picks.courses.filter((c) => c.termId !== termId),
			...(ids.length > 0 ? [{ termId, ids }] : [])
		];
	}

	get data(): AudienceLine {
		const only = $state.snapshot(this.only);
		if (this.people) return { verb: this.verb, people: $state.snapshot(this.people), only };
		const { sections, courses, groups, grades, schools, terms, students, uncovered } =
			$state.snapshot(this.picks);
		const lists: Exclude<Pick, { kind: 'grades' }>[] = [
			{ kind: 'sections', ids: sections },
			...courses.map((c) => ({ kind: 'courses' as const, ...c })),
			{ kind: 'groups', ids: groups },
			{ kind: 'schools', ids: schools },
			{ kind: 'terms', ids: terms },
			{ kind: 'students', ids: students },
			{ kind: 'uncovered', ids: uncovered }
		];
		const parts: StudentSet[] = lists.filter((p) => p.ids.length > 0);
		if (grades.length > 0) parts.push({ kind: 'grades', levels: grades });
		parts.push(...$state.snapshot(this.nested));
		const of: StudentSet =
			parts.length === 1
				? parts[0]!
				: parts.length === 0
					? { kind: 'sections', ids: [] }
					: { kind: this.mode, of: parts };
		return { verb: this.verb, to: $state.snapshot(this.to), of, only };
	}
}

export const newLine = (verb: AudienceLine['verb'] = 'and'): AudienceLine => ({
	verb,
	to: [{ kind: 'guardians' }],
	of: { kind: 'sections', ids: [] },
	only: []
});

export const newPeopleLine = (people: People): AudienceLine => ({ verb: 'and', people, only: [] });
