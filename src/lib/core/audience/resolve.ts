import type { Roster } from '../roster/roster';
import {
	isPeopleLine,
	picksBringing,
	type Audience,
	type PeopleLine,
	type StudentLine,
	type StudentSet
} from './audience';
import { noFacts, type Facts, type ListEntry } from './facts';
import { holds, tiesOf, type As } from './people';
import { dutyReason, type Reason } from './reasons';
import { studentsOfSet } from './students';

/** Why one person is in: for which student, what they are to them, by which lines. */
export interface Because {
	/** The student they are written to for; null for someone meant for themselves. */
	readonly studentId: number | null;
	/** As what they are in. */
	readonly as: As;
	/** The roster's word for it: a relation or a role; null where it has none. */
	readonly word: string | null;
	/** Index of the line of the audience that brought them in; null for by hand. */
	readonly line: number | null;
	/** Lines that mean them for the same student too, and add no second copy. */
	readonly also: readonly number[];
}

interface Meant {
	readonly personId: number;
	readonly because: readonly Because[];
}

interface Excluded {
	readonly personId: number;
	/** Null for someone who was meant for themselves. */
	readonly studentId: number | null;
	readonly reason: Reason;
}

/** What one line does. */
export interface LineCount {
	/** People the line means, or for `but-not` takes out. */
	readonly people: number;
	/** Of them, those whom earlier lines mean for all the same students already. */
	readonly already: number;
}

/** One person meant for one student, taken out again by a line (counted from 0). */
export interface OutByLine {
	readonly personId: number;
	readonly studentId: number;
	readonly line: number;
}

/** A student of the picks who was taken out: by a line (counted from 0), or by hand where all who were left were. */
export interface TakenOut {
	readonly studentId: number;
	readonly by: number | 'hand';
}

/** What an audience comes to before ways and addresses are looked at. */
export interface Resolved {
	/** Every student somebody may be written to for, each once: not those of `takenOut`. */
	readonly students: readonly number[];
	/** Students that were picked and taken out again. Every student of the picks is either here or in `students`. */
	readonly takenOut: readonly TakenOut[];
	/** People a line took out for students who are still in by others. */
	readonly outByLine: readonly OutByLine[];
	/** For each student, the section they are shown under: a picked one, else one they are enrolled in; null for none. */
	readonly sectionOf: ReadonlyMap<number, number | null>;
	readonly meant: readonly Meant[];
	/** People who would be meant and are passed over, with the reason. */
	readonly excluded: readonly Excluded[];
	readonly byLine: readonly LineCount[];
}

/** The terms that the picks of a set's students speak of; empty where they speak of none. What is excepted has no say: it would add the staff of its own term. */
export function termsOf(roster: Roster, set: StudentSet): Set<number> {
	const terms = new Set<number>();
	for (const pick of picksBringing(set)) {
		if (pick.kind === 'terms') pick.ids.forEach((id) => terms.add(id));
		if (pick.kind === 'courses') terms.add(pick.termId);
		if (pick.kind === 'sections') {
			for (const id of pick.ids) {
				const section = roster.section(id);
				if (section) terms.add(section.termId);
			}
		}
	}
	return terms;
}

/** Takes a person for a student (null: for themselves), as a line means or passes them over. */
type TakePair = (
	personId: number,
	studentId: number | null,
	as: As,
	word: string | null,
	passedOver: Reason | null
) => void;

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

const forStudent = <T extends { readonly studentId: number | null }>(
	list: readonly T[] | undefined,
	studentId: number | null
): T | undefined => {
	if (list) for (const item of list) if (item.studentId === studentId) return item;
	return undefined;
};

/**
 * Works out an audience against a roster. Lines are worked in order: `and` adds people for
 * students, `but-not` takes the same pairs out again, so that a mother of two stays in for the
 * child that was not taken out. People picked for themselves are taken out whole. What was done by
 * hand comes last and outweighs every line. Order follows the picks, so that equal input gives
 * equal output.
 */
export function resolveAudience(
	roster: Roster,
	audience: Audience,
	facts: Facts = noFacts
): Resolved {
	const students = new Set<number>();
	const pairs = new Map<number, Draft[]>();
	const passed = new Map<number, Passed[]>();
	const out: OutByLine[] = [];
	const sets = audience.lines.map((line) =>
		isPeopleLine(line) ? null : studentsOfSet(roster, line.of, facts)
	);
	const byLine = audience.lines.map((line, index): LineCount => {
		const set = sets[index]!;
		const eachPair = (take: TakePair) =>
			isPeopleLine(line)
				? pairsOfPeople(roster, facts, line, take)
				: pairsOfStudents(roster, line, set, take);
		const fits: Fits | null =
			line.only.length === 0
				? null
				: (personId, studentId) =>
						line.only.every((c) => holds(roster, facts, c, personId, studentId));
		if (line.verb === 'but-not') {
			return { people: takeOut(eachPair, fits, index, pairs, passed, out), already: 0 };
		}
		// With conditions only those students are meant who have somebody that fits them.
		if (!fits) set?.forEach((id) => students.add(id));
		return add(eachPair, fits, index, pairs, passed, students);
	});

	const meant = new Map<number, readonly Because[]>();
	for (const [personId, because] of pairs) {
		if (because.length > 0) meant.set(personId, because);
	}
	const excluded: Excluded[] = [];
	const excludedFor = new Set<number | null>();
	for (const [personId, list] of passed) {
		for (const { studentId, reason } of list) {
			// Whoever another line means for the same student is not passed over for them.
			if (forStudent(pairs.get(personId), studentId)) continue;
			excluded.push({ personId, studentId, reason });
			excludedFor.add(studentId);
		}
	}
	const outByHand: Excluded[] = [];
	for (const { personId, way } of audience.byHand) {
		if (way === 'in') {
			if (!meant.has(personId)) {
				meant.set(personId, [{ studentId: null, as: 'hand', word: null, line: null, also: [] }]);
			}
			continue;
		}
		const because = meant.get(personId);
		meant.delete(personId);
		for (const { studentId } of because ?? []) {
			outByHand.push({ personId, studentId, reason: { code: 'by-hand' } });
		}
	}
	excluded.push(...outByHand);
	const takenOut = whoIsOut(audience, sets, students, meant, excludedFor, out, outByHand);
	takenOut.forEach((t) => students.delete(t.studentId));
	return {
		students: [...students],
		takenOut,
		outByLine: out.filter(
			(o) => students.has(o.studentId) && !forStudent(pairs.get(o.personId), o.studentId)
		),
		sectionOf: sectionsShown(roster, audience, students, facts),
		meant: Array.from(meant, ([personId, because]) => ({ personId, because })),
		excluded,
		byLine
	};
}

/**
 * The students of the picks who are out: nobody is meant or passed over for them any more, and it was
 * a line or a hand that took the last one. Who never had anybody is not out, but listed as such; but
 * a line that takes out all the kinds of people they were picked for takes them out as well.
 */
function whoIsOut(
	audience: Audience,
	sets: readonly (ReadonlySet<number> | null)[],
	students: ReadonlySet<number>,
	meant: ReadonlyMap<number, readonly Because[]>,
	excludedFor: ReadonlySet<number | null>,
	out: readonly OutByLine[],
	outByHand: readonly Excluded[]
): TakenOut[] {
	const takesOut = audience.lines.some((l) => l.verb === 'but-not');
	if (!takesOut && outByHand.length === 0) return [];
	const still = new Set<number | null>(excludedFor);
	for (const because of meant.values()) for (const b of because) still.add(b.studentId);
	const lastLine = new Map(out.map((o) => [o.studentId, o.line]));
	const byHand = new Set(outByHand.map((e) => e.studentId));
	const takenOut: TakenOut[] = [];
	for (const studentId of students) {
		if (still.has(studentId)) continue;
		const by = byHand.has(studentId)
			? 'hand'
			: (lastLine.get(studentId) ?? lineThatDrops(audience, sets, studentId));
		if (by !== null) takenOut.push({ studentId, by });
	}
	return takenOut;
}

/** The line that takes out a student nobody was ever meant for: one without conditions that names every kind of people they were picked for. */
function lineThatDrops(
	{ lines }: Audience,
	sets: readonly (ReadonlySet<number> | null)[],
	studentId: number
): number | null {
	const wanted = new Set<string>();
	let dropped: number | null = null;
	lines.forEach((line, index) => {
		if (isPeopleLine(line) || !sets[index]!.has(studentId)) return;
		const kinds = line.to.map((kind) => JSON.stringify(kind));
		if (line.verb === 'and') {
			kinds.forEach((kind) => wanted.add(kind));
			dropped = null;
		} else if (line.only.length === 0) {
			kinds.forEach((kind) => wanted.delete(kind));
			if (wanted.size === 0) dropped ??= index;
		}
	});
	return dropped;
}

function pairsOfStudents(
	roster: Roster,
	line: StudentLine,
	set: ReadonlySet<number> | null,
	take: TakePair
): void {
	const terms = line.to.some((t) => t.kind === 'section-staff')
		? termsOf(roster, line.of)
		: new Set<number>();
	for (const studentId of set ?? []) {
		for (const kind of line.to) tiesOf(roster, kind, studentId, terms, take);
	}
}

function pairsOfPeople(roster: Roster, facts: Facts, line: PeopleLine, take: TakePair): void {
	const { people } = line;
	switch (people.kind) {
		case 'staff': {
			const [roles, schools] = [new Set(people.roles), new Set(people.schoolIds)];
			for (const { personId, role, schoolId } of roster.staffRoles()) {
				if (roles.size > 0 && !roles.has(role)) continue;
				if (schools.size > 0 && (schoolId === null || !schools.has(schoolId))) continue;
				take(personId, null, 'staff', role, null);
			}
			return;
		}
		case 'named':
			people.ids.forEach((personId) => take(personId, null, 'name', null, null));
			return;
		case 'list':
			facts.list(people.keptId)?.forEach((entry) => pairOfEntry(roster, entry, take));
	}
}

/** One entry of a fixed list. The list is fixed, the duty is not: who has lost custody since is passed over. */
function pairOfEntry(
	roster: Roster,
	{ personId, studentId, explicit }: ListEntry,
	take: TakePair
): void {
	if (studentId === null) return take(personId, null, 'name', null, null);
	if (studentId === personId) return take(personId, studentId, 'self', null, null);
	const contact = roster.contactsOf(studentId).find((c) => c.personId === personId);
	if (contact) {
		return take(
			personId,
			studentId,
			'contact',
			contact.relation,
			explicit ? null : dutyReason(contact)
		);
	}
	const teaches = roster.sectionsOf(studentId).some((s) => roster.staffOf(s.id).includes(personId));
	take(personId, studentId, 'teacher', null, teaches ? null : { code: 'no-longer-tied' });
}

type Fits = (personId: number, studentId: number | null) => boolean;

/** Adds a line's people; resolves to how many it means and how many of them were all in before. */
function add(
	eachPair: (take: TakePair) => void,
	fits: Fits | null,
	index: number,
	pairs: Map<number, Draft[]>,
	passed: Map<number, Passed[]>,
	students: Set<number>
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
			const draft: Draft = { studentId, as, word, line: index, also: noLines };
			if (because) because.push(draft);
			else pairs.set(personId, [draft]);
			people.set(personId, true);
			return;
		}
		if (!people.has(personId)) people.set(personId, false);
		if (before.line !== index && before.also.at(-1) !== index)
			before.also = [...before.also, index];
	});
	let already = 0;
	for (const brings of people.values()) if (!brings) already += 1;
	return { people: people.size, already };
}

/**
 * Takes a line's pairs out; resolves to how many people it takes a student away from, or takes out
 * whole. Whom the line passes over it leaves in, if another line means them; but where nothing more
 * than passing over is left of a pair, the line has it, and nobody need be told of a student who was
 * not meant.
 */
function takeOut(
	eachPair: (take: TakePair) => void,
	fits: Fits | null,
	line: number,
	pairs: Map<number, Draft[]>,
	passed: Map<number, Passed[]>,
	out: OutByLine[]
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

function sectionsShown(
	roster: Roster,
	audience: Audience,
	students: ReadonlySet<number>,
	facts: Facts
): Map<number, number | null> {
	const picked = new Map<number, number>();
	for (const line of audience.lines) {
		if (line.verb !== 'and' || isPeopleLine(line)) continue;
		for (const pick of picksBringing(line.of)) {
			if (pick.kind === 'uncovered') {
				// What follows up speaks of the same section as what it follows up.
				for (const dispatchId of pick.ids) {
					for (const id of facts.uncovered(dispatchId)) {
						const section = facts.stoodUnder(dispatchId, id);
						if (section !== null && roster.section(section) && !picked.has(id)) {
							picked.set(id, section);
						}
					}
				}
			}
			if (pick.kind !== 'sections') continue;
			for (const sectionId of pick.ids) {
				for (const id of roster.studentsIn(sectionId)) {
					if (!picked.has(id)) picked.set(id, sectionId);
				}
			}
		}
	}
	const shown = new Map<number, number | null>();
	for (const id of students) {
		shown.set(id, picked.get(id) ?? roster.sectionsOf(id).at(-1)?.id ?? null);
	}
	return shown;
}
