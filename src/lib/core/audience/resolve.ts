import type { Roster } from '../roster/roster';
import { isPeopleLine, type Audience } from './audience';
import { noFacts, type Facts } from './facts';
import { addLine, forStudent, takeLineOut, type Ledger } from './ledger';
import { pairsOfPeople, pairsOfStudents, type TakePair } from './pairs';
import { holds } from './people';
import type { Because, Excluded, LineCount, Resolved } from './resolved';
import { sectionsShown } from './sections-shown';
import { studentsOfSet } from './students';
import { whoIsOut } from './who-is-out';

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
	const ledger: Ledger = {
		pairs: new Map(),
		passed: new Map(),
		out: [],
		students: new Set()
	};
	const { pairs, out, students } = ledger;
	const sets = audience.lines.map((line) =>
		isPeopleLine(line) ? null : studentsOfSet(roster, line.of, facts)
	);
	const byLine = audience.lines.map((line, index): LineCount => {
		const set = sets[index]!;
		const fits =
			line.only.length === 0
				? null
				: (personId: number, studentId: number | null) =>
						line.only.every((c) => holds(roster, facts, c, personId, studentId));
		const worked = {
			line: index,
			fits,
			eachPair: (take: TakePair) =>
				isPeopleLine(line)
					? pairsOfPeople(roster, facts, line, take)
					: pairsOfStudents(roster, line, set, take)
		};
		if (line.verb === 'but-not') return { people: takeLineOut(ledger, worked), already: 0 };
		// With conditions only those students are meant who have somebody that fits them.
		if (!fits) set?.forEach((id) => students.add(id));
		return addLine(ledger, worked);
	});

	const meant = new Map<number, readonly Because[]>();
	for (const [personId, because] of pairs) {
		if (because.length > 0) meant.set(personId, because);
	}
	const excluded = stillPassedOver(ledger);
	const excludedFor = new Set(excluded.map((e) => e.studentId));
	const outByHand = byHandLast(audience, meant);
	excluded.push(...outByHand);
	const takenOut = whoIsOut({
		audience,
		sets,
		students,
		meant,
		excludedFor,
		out,
		outByHand
	});
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

/** Who was passed over for a student that no other line means them for. */
function stillPassedOver({ pairs, passed }: Ledger): Excluded[] {
	const excluded: Excluded[] = [];
	for (const [personId, list] of passed) {
		for (const { studentId, reason } of list) {
			if (forStudent(pairs.get(personId), studentId)) continue;
			excluded.push({ personId, studentId, reason });
		}
	}
	return excluded;
}

/** Puts in and takes out who was by hand; comes to those who were taken out, for each student. */
function byHandLast({ byHand }: Audience, meant: Map<number, readonly Because[]>): Excluded[] {
	const out: Excluded[] = [];
	for (const { personId, way } of byHand) {
		if (way === 'in') {
			if (!meant.has(personId)) {
				meant.set(personId, [{ studentId: null, as: 'hand', word: null, line: null, also: [] }]);
			}
			continue;
		}
		for (const { studentId } of meant.get(personId) ?? []) {
			out.push({ personId, studentId, reason: { code: 'by-hand' } });
		}
		meant.delete(personId);
	}
	return out;
}
