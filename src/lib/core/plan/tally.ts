import type { Reason } from '../audience/reasons';
import { reasonKey, reasonText } from '../audience/reasons';
import type { Manifest } from './manifest';
import { studentsLeft, type StudentLeftKind } from './students-left';
import { type Way, ways } from '../roster/way';

interface ReasonCount {
	readonly text: string;
	readonly people: number;
}

/** The numbers beside the wording. Every one is a count of rows of the manifest. */
export interface Tally {
	readonly students: number;
	/** Students for whom nobody gets a copy. */
	readonly studentsWithNobody: number;
	/** Of these, those of whom none of the people asked for is on file at all. */
	readonly studentsAlone: number;
	/** Students of the picks who were taken out again, by a line or by hand; not among `students`. */
	readonly studentsOut: number;
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
	/** People who get something that they have declined, because it is urgent. */
	readonly overWish: number;
	/** Staff who get a copy for information; their copies are among the copies. */
	readonly informed: number;
	/** People who get no copy at all. */
	readonly leftOut: number;
	/** People who get a copy for some students, but not for others. */
	readonly leftOutForSome: number;
	readonly leftOutBy: readonly ReasonCount[];
}

/** In a sum a failing address is one reason, whatever its cause; the person's own line keeps the cause. */
export const shortReason = (reason: Reason): string =>
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

const keyOfAll = (reasons: readonly Reason[]): string =>
	[...new Set(reasons.map(reasonKey))].join();

/** Counts people by all that holds for them, so that the parts add up to the sum. */
function countReasons(
	rows: Iterable<{ personId: number; reasons: readonly Reason[] }>
): ReasonCount[] {
	const counts = new Map<string, { reasons: readonly Reason[]; ids: Set<number> }>();
	for (const { personId, reasons } of rows) {
		const key = reasons.length === 1 ? reasonKey(reasons[0]!) : keyOfAll(reasons);
		const known = counts.get(key);
		if (known) known.ids.add(personId);
		else counts.set(key, { reasons, ids: new Set([personId]) });
	}
	return [...counts.values()]
		.map(({ reasons, ids }) => ({ text: wholePhrase(reasons), people: ids.size }))
		.sort((a, b) => b.people - a.people || a.text.localeCompare(b.text));
}

/** The students one person is written to for; not themselves, where they are picked by name or hand as well. */
export const studentsOf = ({ because }: Manifest['recipients'][number]): Set<number> =>
	new Set(because.flatMap((b) => b.studentId ?? []));

/** All that holds for a person, over their rows. */
function byPerson(
	rows: readonly { readonly personId: number; readonly reasons: readonly Reason[] }[]
): Iterable<{ personId: number; reasons: Reason[] }> {
	const people = new Map<number, { personId: number; reasons: Reason[] }>();
	for (const { personId, reasons } of rows) {
		const row = people.get(personId);
		if (row) row.reasons.push(...reasons);
		else people.set(personId, { personId, reasons: [...reasons] });
	}
	return people.values();
}

export function tallyOf(manifest: Manifest): Tally {
	const byWay: Record<Way, number> = { email: 0, text: 0, inbox: 0 };
	// With a copy for each student the same two people meet more than once.
	const merged = new Set<string>();
	let inTurn = 0;
	const overWish = new Set<number>();
	for (const copy of manifest.copies) {
		byWay[copy.way] += 1;
		for (const id of copy.alsoFor) merged.add(`${id} ${copy.way}`);
		if (copy.step > 0) inTurn += 1;
		if (copy.overWish) overWish.add(copy.personId);
	}
	const leftOut = manifest.leftOut.filter((l) => !l.reached);
	const out = new Set(leftOut.map((l) => l.personId));
	const left = studentsLeft(manifest);
	const leftBy = (kind: StudentLeftKind) => left.filter((s) => s.kind === kind).length;
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
		studentsWithNobody: leftBy('unreached') + leftBy('alone'),
		studentsAlone: leftBy('alone'),
		studentsOut: leftBy('out'),
		people: manifest.recipients.length,
		copies: manifest.copies.length,
		byWay,
		inTurn,
		notByWay,
		merged: merged.size,
		severalStudents: manifest.recipients.filter((r) => studentsOf(r).size > 1).length,
		byOtherLine: manifest.recipients.filter((r) => r.because.some((b) => b.also.length > 0)).length,
		overWish: overWish.size,
		informed: manifest.informed.length,
		leftOut: out.size,
		leftOutForSome: new Set(manifest.leftOut.filter((l) => l.reached).map((l) => l.personId)).size,
		leftOutBy: countReasons(byPerson(leftOut))
	};
}
