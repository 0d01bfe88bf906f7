import type { Audience } from '../audience/audience';
import { noFacts, type Facts } from '../audience/facts';
import type { Because } from '../audience/resolved';
import { resolveAudience } from '../audience/resolve';
import type { Roster } from '../roster/roster';
import type { Handling } from './handling';
import { informedCopies } from './informed';
import { passedOver, withOutByLine } from './left-out';
import type { LeftOut, Manifest, NotByWay, Recipient } from './manifest';
import { mergeCopies } from './merge-copies';
import { usableBy } from './usable-address';
import { waysOfPerson } from './ways-of-person';

const studentsIn = (because: readonly Because[]): number[] => {
	const ids: number[] = [];
	for (const { studentId } of because) if (studentId !== null) ids.push(studentId);
	return ids;
};

/**
 * Plans a dispatch: each person once, with the students they are written to for; one copy for each
 * chosen way that works; the same address used once. Nobody is dropped: who gets nothing is in
 * `leftOut` with every reason.
 */
export function planManifest(
	roster: Roster,
	audience: Audience,
	handling: Handling,
	facts: Facts = noFacts
): Manifest {
	const resolved = resolveAudience(roster, audience, facts);
	const { copies, put } = mergeCopies(handling);
	const notByWay: NotByWay[] = [];
	const recipients: Recipient[] = [];
	const leftOut: LeftOut[] = [];
	const byHand = new Map(handling.waysByHand.map((w) => [w.personId, w.ways]));
	const usableOf = usableBy(roster, handling);

	for (const { personId, because } of resolved.meant) {
		const studentIds = studentsIn(because);
		if (!roster.person(personId)) {
			const reasons = [{ code: 'not-on-roster' }] as const;
			leftOut.push({ personId, studentIds, reasons, reached: false });
			continue;
		}
		const usable = usableOf(personId);
		const chosen = { handling, byHand: byHand.get(personId), usable, facts };
		const { by, notBy, reasons } = waysOfPerson(personId, chosen);
		notByWay.push(...notBy);
		if (by.length === 0) {
			// Ways put away by hand are the reason where no other is left.
			const why = reasons.length > 0 ? reasons : [{ code: 'way-by-hand' } as const];
			leftOut.push({ personId, studentIds, reasons: why, reached: false });
			continue;
		}
		recipients.push({ personId, because });
		const each =
			handling.perStudent && studentIds.length > 1 ? studentIds.map((id) => [id]) : [studentIds];
		for (const { way, step } of by) {
			const at = usable[way];
			if ('reason' in at) continue;
			const { address, key, overWish = false } = at;
			for (const ids of each) {
				put({ personId, way, address, key, studentIds: ids, step, overWish });
			}
		}
	}

	const reached = new Set(recipients.map((r) => r.personId));
	leftOut.push(...passedOver(resolved.excluded, reached));
	const informed = informedCopies(roster, handling, reached);
	for (const { personId, reasons } of informed.notReached) {
		if (leftOut.some((l) => l.personId === personId)) continue;
		leftOut.push({ personId, studentIds: [], reasons, reached: false });
	}
	const { students, takenOut, outByLine, sectionOf, byLine } = resolved;
	return withOutByLine({
		students,
		takenOut,
		outByLine,
		sectionOf,
		byLine,
		recipients,
		informed: informed.copies.map((copy) => copy.personId),
		copies: [...copies, ...informed.copies],
		notByWay,
		leftOut
	});
}
