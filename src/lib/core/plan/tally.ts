import type { Reason } from '../audience/reasons';
import { reasonText } from '../audience/reasons';
import type { Manifest, Way } from './manifest';
import { ways } from './manifest';

export interface ReasonCount {
	readonly text: string;
	readonly people: number;
}

/** The numbers beside the wording. Every one is a count of rows of the manifest. */
export interface Tally {
	readonly students: number;
	/** Students for whom nobody gets a copy. */
	readonly studentsWithNobody: number;
	readonly people: number;
	readonly copies: number;
	readonly byWay: Readonly<Record<Way, number>>;
	/** Of the copies, those that wait for their turn and are only sent to whom has not read by then. */
	readonly inTurn: number;
	/** By way, why some of the people who do get a copy get none by this way. */
	readonly notByWay: Readonly<Record<Way, readonly ReasonCount[]>>;
	/** People who read at an address that another person's copy already goes to, counted once for each way. */
	readonly merged: number;
	/** People who get one copy that speaks of more than one student. */
	readonly severalStudents: number;
	/** People whom more than one line means for the same student; they get no second copy for it. */
	readonly byOtherLine: number;
	/** Staff who get a copy for information; their copies are among the copies. */
	readonly informed: number;
	readonly leftOut: number;
	readonly leftOutBy: readonly ReasonCount[];
}

/** In a sum a failing address is one reason, whatever its cause; the person's own line keeps the cause. */
const shortReason = (reason: Reason): string =>
	reason.code === 'address-failing'
		? reason.way === 'text'
			? 'Number does not work'
			: 'Email address does not work'
		: reasonText(reason);

/** "No email address on file, has not opted in to text": all that holds for one person. */
function wholePhrase(reasons: readonly Reason[]): string {
	const phrases = [...new Set(reasons.map(shortReason))];
	return phrases.map((p, i) => (i === 0 ? p : p[0]!.toLowerCase() + p.slice(1))).join(', ');
}

/** Counts people by their whole phrase, so that the parts add up to the sum. */
function countReasons(
	rows: Iterable<{ personId: number; reasons: readonly Reason[] }>
): ReasonCount[] {
	const people = new Map<string, Set<number>>();
	for (const { personId, reasons } of rows) {
		const text = reasons.length === 1 ? shortReason(reasons[0]!) : wholePhrase(reasons);
		const ids = people.get(text);
		if (ids) ids.add(personId);
		else people.set(text, new Set([personId]));
	}
	return [...people]
		.map(([text, ids]) => ({ text, people: ids.size }))
		.sort((a, b) => b.people - a.people || a.text.localeCompare(b.text));
}

/** Students no copy speaks of. */
export function studentsWithNobody(manifest: Manifest): number[] {
	const spokenOf = new Set<number>();
	for (const copy of manifest.copies) for (const id of copy.studentIds) spokenOf.add(id);
	return manifest.students.filter((id) => !spokenOf.has(id));
}

/** Sections in which no student has anybody who gets a copy, of those that students are shown under. */
export function sectionsWithNobody(manifest: Manifest): number[] {
	const nobody = new Set(studentsWithNobody(manifest));
	const reached = new Map<number, boolean>();
	for (const id of manifest.students) {
		const sectionId = manifest.sectionOf.get(id);
		if (sectionId === undefined || sectionId === null) continue;
		reached.set(sectionId, (reached.get(sectionId) ?? false) || !nobody.has(id));
	}
	return [...reached].filter(([, somebody]) => !somebody).map(([id]) => id);
}

export function tallyOf(manifest: Manifest): Tally {
	const byWay: Record<Way, number> = { email: 0, text: 0, inbox: 0 };
	let merged = 0;
	let inTurn = 0;
	for (const copy of manifest.copies) {
		byWay[copy.way] += 1;
		merged += copy.alsoFor.length;
		if (copy.step > 0) inTurn += 1;
	}
	const out = new Set(manifest.leftOut.map((l) => l.personId));
	const notByWay = Object.fromEntries(
		ways.map((way) => [
			way,
			countReasons(
				manifest.notByWay
					.filter((n) => n.way === way && !out.has(n.personId))
					.map((n) => ({ personId: n.personId, reasons: [n.reason] }))
			)
		])
	) as Record<Way, ReasonCount[]>;
	return {
		students: manifest.students.length,
		studentsWithNobody: studentsWithNobody(manifest).length,
		people: manifest.recipients.length,
		copies: manifest.copies.length,
		byWay,
		inTurn,
		notByWay,
		merged,
		severalStudents: manifest.recipients.filter((r) => r.because.length > 1).length,
		byOtherLine: manifest.recipients.filter((r) => r.because.some((b) => b.also.length > 0)).length,
		informed: manifest.informed.length,
		leftOut: manifest.leftOut.length,
		leftOutBy: countReasons(manifest.leftOut)
	};
}
