import { isPeopleLine, type Audience } from './audience';
import type { Because, Excluded, OutByLine, TakenOut } from './resolved';

/** An audience whose lines have been worked. */
interface WorkedOut {
	readonly audience: Audience;
	/** The students of each line's set; null for a line that names people. */
	readonly sets: readonly (ReadonlySet<number> | null)[];
	readonly students: ReadonlySet<number>;
	readonly meant: ReadonlyMap<number, readonly Because[]>;
	/** Students for whom somebody is passed over. */
	readonly excludedFor: ReadonlySet<number | null>;
	readonly out: readonly OutByLine[];
	readonly outByHand: readonly Excluded[];
}

/**
 * The students of the picks who are out: nobody is meant or passed over for them any more, and it was
 * a line or a hand that took the last one. Who never had anybody is not out, but listed as such; but
 * a line that takes out all the kinds of people they were picked for takes them out as well.
 */
export function whoIsOut({
	audience,
	sets,
	students,
	meant,
	excludedFor,
	out,
	outByHand
}: WorkedOut): TakenOut[] {
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
