import type { Way } from '../../roster/way';
import type { CoverRule } from '../coverage';
import type { Leaving } from './past-copy';

/** A copy as it will leave: to whom, by which way, when (instant, ms), and by the clock of its school. */
export interface CopyAhead extends Leaving {
	readonly personId: number;
	/** The home its reader lives in; null where none is known. */
	readonly householdId: number | null;
	/** Everyone who reads it: whom it is addressed to, and who shares the address. */
	readonly readers: readonly number[];
	/** Whether an adult is among them. */
	readonly adult: boolean;
	readonly way: Way;
	readonly at: number;
	/** 0 for what leaves first, else the turn it waits for: then it is only used where nothing has been read before. */
	readonly step: number;
}

/** A student with every copy that speaks of them, those that wait for their turn too. */
export interface StudentAhead {
	readonly studentId: number;
	readonly copies: readonly CopyAhead[];
	/** The adults of each home who are meant, written to or not, for the rule that asks for each home. */
	readonly homes: readonly (readonly number[])[];
}

/** Copies by the home of their readers, and there by reader: what hangs together stands together. */
export type ByReader = readonly (readonly (readonly CopyAhead[])[])[];

/** Students who are covered by the same readings: brothers and sisters at the same home. */
export interface Family {
	readonly size: number;
	/** One of these read is all that is needed: an address that is shared by all who must have read. */
	readonly enough: ByReader;
	/** Else one of each of these; where one of them is empty, nothing else is enough. */
	readonly oneOfEach: readonly ByReader[];
}

/** Students put together to families, by the rule of the dispatch. */
export interface Families {
	readonly families: readonly Family[];
	/** The number of each student’s family, in the order of the students. */
	readonly familyOf: readonly number[];
	/** The ways that are used. */
	readonly ways: readonly Way[];
}

/** Whoever has no home is one by themselves. */
const sameHome = (a: CopyAhead, b: CopyAhead): boolean =>
	a.householdId === null ? a.personId === b.personId : a.householdId === b.householdId;

/** A family has a handful of copies: they are gone through, which is quicker than any map. */
function byReader(copies: readonly CopyAhead[]): ByReader {
	const homes: CopyAhead[][][] = [];
	for (const copy of copies) {
		let home = homes.find((people) => sameHome(people[0]![0]!, copy));
		if (!home) homes.push((home = []));
		const person = home.find(([one]) => one!.personId === copy.personId);
		if (person) person.push(copy);
		else home.push([copy]);
	}
	return homes;
}

/** What must be read for a student, by a rule: {@link byRule} of coverage said in copies. */
function neededFor(
	{ studentId, copies, homes }: StudentAhead,
	rule: CoverRule,
	adultsWrittenTo: boolean
): CopyAhead[][] {
	const counting = adultsWrittenTo ? copies.filter((c) => c.adult) : [...copies];
	if (!adultsWrittenTo || rule === 'adult') return [counting];
	if (rule === 'student-too')
		return [counting, copies.filter((c) => c.readers.includes(studentId))];
	const there = homes.filter((home) => home.length > 0);
	return there.length === 0
		? [counting]
		: there.map((home) => copies.filter((c) => c.readers.some((id) => home.includes(id))));
}

/** Who reads some copies, in the order of their ids. */
function peopleOf(copies: readonly CopyAhead[]): string {
	const ids: number[] = [];
	for (const { personId } of copies) if (!ids.includes(personId)) ids.push(personId);
	return ids.sort((a, b) => a - b).join(' ');
}
const keyOf = (sets: readonly (readonly CopyAhead[])[]): string => sets.map(peopleOf).join('|');

/** What a family needs, of some sets of copies of each of which one must be read. */
function needOf(sets: readonly (readonly CopyAhead[])[]): Omit<Family, 'size'> {
	if (sets.length === 1) return { enough: byReader(sets[0]!), oneOfEach: [[]] };
	const common = sets.reduce((all, set) => all.filter((c) => set.includes(c)));
	return {
		enough: byReader(common),
		oneOfEach: sets.map((set) => byReader(set.filter((c) => !common.includes(c))))
	};
}

/** Puts the students of a dispatch together who are covered by the same people’s reading. */
export function familiesOf(students: readonly StudentAhead[], rule: CoverRule): Families {
	const adultsWrittenTo = students.some((s) => s.copies.some((c) => c.adult));
	const families: (Family & { size: number })[] = [];
	const numbers = new Map<string, number>();
	const ways = new Set<Way>();
	const familyOf = students.map((student) => {
		const sets = neededFor(student, rule, adultsWrittenTo);
		const key = keyOf(sets);
		// Of whom nobody is written to, each is for themselves.
		const number = key === '' ? undefined : numbers.get(key);
		if (number !== undefined) {
			families[number]!.size += 1;
			return number;
		}
		numbers.set(key, families.length);
		for (const set of sets) for (const { way } of set) ways.add(way);
		return families.push({ size: 1, ...needOf(sets) }) - 1;
	});
	return { families, familyOf, ways: [...ways] };
}
