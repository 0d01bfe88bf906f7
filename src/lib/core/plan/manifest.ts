import {
	resolveAudience,
	type Because,
	type LineCount,
	type OutByLine,
	type Resolved,
	type TakenOut
} from '../audience/resolve';
import type { Audience } from '../audience/audience';
import { noFacts, type Facts } from '../audience/facts';
import type { Reason } from '../audience/reasons';
import type { Roster } from '../roster/roster';
import type { DispatchKind } from '../roster/types';
import { type Way, ways } from '../roster/way';

/** The ways one person is written to by, chosen by hand in place of the dispatch's own. */
export interface WaysByHand {
	readonly personId: number;
	readonly ways: readonly Way[];
	/** Who did it, and when (instant, ms). */
	readonly by: string;
	readonly at: number;
}

/** How the copies of a dispatch are made. */
export interface Handling {
	readonly ways: readonly Way[];
	readonly kind: DispatchKind;
	/** One copy for each student instead of one that speaks of several. */
	readonly perStudent: boolean;
	/** A copy for each person, also where two read at one address. */
	readonly perPerson: boolean;
	/** Passes over what people have declined by kind; never over an opt-out. A right of its own. */
	readonly urgent: boolean;
	readonly waysByHand: readonly WaysByHand[];
	/** One way for each person: of those that work the one tried least in the matter that is followed up. */
	readonly leastTried: boolean;
	/** The turn of each way: 0 goes first, a later one is used only for those who have not read by its time. */
	readonly steps: Readonly<Record<Way, number>>;
	/** Staff who get one copy for information, the sender first. */
	readonly informed: readonly number[];
}

/** All ways at the same time. */
const atOnce: Handling['steps'] = { email: 0, text: 0, inbox: 0 };

/** The usual handling: one person, one copy; one address, one copy. */
export const byWays = (chosen: readonly Way[], over: Partial<Handling> = {}): Handling => ({
	ways: chosen,
	kind: 'message',
	perStudent: false,
	perPerson: false,
	urgent: false,
	waysByHand: [],
	leastTried: false,
	steps: atOnce,
	informed: [],
	...over
});

/** One copy that will be sent: to one person, by one way, at one address. */
export interface PlannedCopy {
	readonly personId: number;
	readonly way: Way;
	/** Email address or E.164 number; null for the inbox. */
	readonly address: string | null;
	/** Students this copy speaks of, each once. */
	readonly studentIds: readonly number[];
	/** Others in the audience who read at the same address and so get no second copy there. */
	readonly alsoFor: readonly number[];
	/** 0 for what leaves first, else the turn it waits for. */
	readonly step: number;
	/** Whether its reader has declined this kind by this way, and it goes because it is urgent. */
	readonly overWish: boolean;
}

/** A chosen way that one person cannot be reached by, while another way may work. */
export interface NotByWay {
	readonly personId: number;
	readonly way: Way;
	readonly reason: Reason;
}

/**
 * A person in the audience who gets no copy that speaks of these students. A person has a row for
 * each set of reasons; without students where they were meant for themselves.
 */
export interface LeftOut {
	readonly personId: number;
	readonly studentIds: readonly number[];
	readonly reasons: readonly Reason[];
	/** Whether they do get a copy, which speaks of other students. */
	readonly reached: boolean;
}

export interface Recipient {
	readonly personId: number;
	readonly because: readonly Because[];
}

/**
 * The manifest: what an audience comes to. The tally, the sending and the later coverage are all
 * counted from this one value.
 */
export interface Manifest {
	readonly students: readonly number[];
	/** Students of the picks who were taken out again; they are not among `students`. */
	readonly takenOut: readonly TakenOut[];
	/** People a line took out for students who are still in. */
	readonly outByLine: readonly OutByLine[];
	readonly sectionOf: ReadonlyMap<number, number | null>;
	readonly byLine: readonly LineCount[];
	/** People who get at least one copy, or read one at an address they share. */
	readonly recipients: readonly Recipient[];
	/** Staff who get a copy for information only. */
	readonly informed: readonly number[];
	readonly copies: readonly PlannedCopy[];
	readonly notByWay: readonly NotByWay[];
	readonly leftOut: readonly LeftOut[];
}

type Usable =
	{ address: string | null; key: string | null; overWish?: boolean } | { reason: Reason };

/**
 * The one address a way would use for a person, or the reason there is none. Of several addresses
 * the first that works is taken. For text, consent is asked for each number (opt in); for email
 * only a "no" counts. A person's own choices for a kind of message hold for email and inbox; what is
 * urgent passes over these, and over nothing else.
 */
export function usableAddress(
	roster: Roster,
	personId: number,
	way: Way,
	kind: DispatchKind = 'message',
	urgent = false
): Usable {
	if (way === 'inbox') {
		if (!roster.person(personId)?.hasInbox) return { reason: { code: 'no-inbox' } };
		if (!roster.declines(personId, kind, way)) return { address: null, key: null };
		return urgent
			? { address: null, key: null, overWish: true }
			: { reason: { code: 'declined', way, kind } };
	}
	let first: Reason | null = null;
	let any = false;
	for (const address of roster.addressesOf(personId)) {
		if (address.way !== way) continue;
		any = true;
		const allowed = way === 'text' ? address.consent === 'in' : address.consent !== 'out';
		if (allowed && address.failing === null) {
			const declined = way === 'email' && roster.declines(personId, kind, way);
			if (declined && !urgent) return { reason: { code: 'declined', way, kind } };
			return {
				address: address.usable,
				key: address.key,
				...(declined ? { overWish: true } : {})
			};
		}
		// What stands nearest to working is said: a number that fails before one that never opted in.
		if (allowed) first ??= { code: 'address-failing', way, why: address.failing! };
	}
	if (first) return { reason: first };
	if (!any) return { reason: { code: way === 'email' ? 'no-email' : 'no-number' } };
	const refused = roster.addressesOf(personId).some((a) => a.way === way && a.consent === 'out');
	return { reason: refused ? { code: 'opted-out', way } : { code: 'not-opted-in' } };
}

type ByWay = Readonly<Record<Way, Usable>>;
/** What was found for each person of a roster, by kind of message. A roster never changes, so neither does this; a tally asks for the same people at every pick. */
const found = new WeakMap<Roster, Map<string, Map<number, ByWay>>>();

/** {@link usableAddress} for every way, looked up once for each person of a roster. */
function usableBy(
	roster: Roster,
	{ kind, urgent }: Pick<Handling, 'kind' | 'urgent'>
): (personId: number) => ByWay {
	let kinds = found.get(roster);
	if (!kinds) found.set(roster, (kinds = new Map()));
	const key = `${kind} ${urgent}`;
	let people = kinds.get(key);
	if (!people) kinds.set(key, (people = new Map()));
	const known = people;
	return (personId) => {
		let usable = known.get(personId);
		if (!usable) {
			usable = {
				email: usableAddress(roster, personId, 'email', kind, urgent),
				text: usableAddress(roster, personId, 'text', kind, urgent),
				inbox: usableAddress(roster, personId, 'inbox', kind, urgent)
			};
			known.set(personId, usable);
		}
		return usable;
	};
}

/** A copy while others may still be merged into it. */
interface OpenCopy {
	personId: number;
	way: Way;
	address: string | null;
	studentIds: readonly number[];
	alsoFor: number[];
	step: number;
	overWish: boolean;
}
/** Most copies are read by one person: they share this one empty list. */
const nobody: number[] = [];

/** What is merged has the same key: by address, and by student where each has a copy of their own. */
function mergeKey(handling: Handling, key: string | null, studentId: number | null): string | null {
	if (key === null || handling.perPerson) return null;
	return handling.perStudent ? `${key} ${studentId ?? ''}` : key;
}

const studentsIn = (because: readonly Because[]): number[] => {
	const ids: number[] = [];
	for (const { studentId } of because) if (studentId !== null) ids.push(studentId);
	return ids;
};

/** Among ways tried equally often the one its reader is likeliest to read goes first; where nothing is known, the one that is read soonest (common practice). */
const soonestFirst: readonly Way[] = ['text', 'email', 'inbox'];

/** Of the ways that work for a person, the one tried least; null where none works. */
function leastTried(personId: number, usable: readonly Way[], facts: Facts): Way | null {
	let best: Way | null = null;
	for (const way of soonestFirst) {
		if (!usable.includes(way)) continue;
		if (best === null) {
			best = way;
			continue;
		}
		const fewer = facts.tried(personId, best) - facts.tried(personId, way);
		const better = (facts.reads(personId, way) ?? 0) - (facts.reads(personId, best) ?? 0);
		if (fewer > 0 || (fewer === 0 && better > 0)) best = way;
	}
	return best;
}

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
	const copies: OpenCopy[] = [];
	const notByWay: NotByWay[] = [];
	const recipients: Recipient[] = [];
	const leftOut: LeftOut[] = [];
	const atAddress = new Map<string, OpenCopy>();
	const byHand = new Map(handling.waysByHand.map((w) => [w.personId, w.ways]));

	const usableOf = usableBy(roster, handling);

	const putOne = (
		personId: number,
		way: Way,
		address: string | null,
		addressKey: string | null,
		studentIds: readonly number[],
		step: number,
		overWish: boolean
	) => {
		const key = mergeKey(handling, addressKey, studentIds[0] ?? null);
		const shared = key === null ? undefined : atAddress.get(key);
		if (shared) {
			if (shared.alsoFor.length === 0) shared.alsoFor = [];
			shared.alsoFor.push(personId);
			shared.overWish ||= overWish;
			// Whoever has no earlier way is not made to wait for those who share the address.
			shared.step = Math.min(shared.step, step);
			shared.studentIds = [...new Set([...shared.studentIds, ...studentIds])];
			return;
		}
		const copy: OpenCopy = { personId, way, address, studentIds, alsoFor: nobody, step, overWish };
		copies.push(copy);
		if (key !== null) atAddress.set(key, copy);
	};

	for (const { personId, because } of resolved.meant) {
		const studentIds = studentsIn(because);
		if (!roster.person(personId)) {
			leftOut.push({
				personId,
				studentIds,
				reasons: [{ code: 'not-on-roster' }],
				reached: false
			});
			continue;
		}
		const chosen = byHand.get(personId);
		const reasons: Reason[] = [];
		let reached = false;
		const usableWays = ways.filter(
			(way) => (chosen ?? handling.ways).includes(way) && !('reason' in usableOf(personId)[way])
		);
		const only = handling.leastTried && !chosen ? leastTried(personId, usableWays, facts) : null;
		// Who cannot be reached by what goes first gets the next way at once.
		const tryable = only === null ? usableWays : [only];
		const first = Math.min(...tryable.map((way) => handling.steps[way]));
		for (const way of ways) {
			if (!(chosen ?? handling.ways).includes(way)) {
				if (chosen && handling.ways.includes(way)) {
					notByWay.push({ personId, way, reason: { code: 'way-by-hand' } });
				}
				continue;
			}
			const usable = usableOf(personId)[way];
			if ('reason' in usable) {
				reasons.push(usable.reason);
				notByWay.push({ personId, way, reason: usable.reason });
				continue;
			}
			if (only !== null && way !== only) {
				notByWay.push({ personId, way, reason: { code: 'tried-less' } });
				continue;
			}
			reached = true;
			const step = handling.steps[way] === first ? 0 : handling.steps[way];
			if (handling.perStudent && studentIds.length > 1) {
				for (const id of studentIds)
					putOne(personId, way, usable.address, usable.key, [id], step, usable.overWish ?? false);
			} else
				putOne(
					personId,
					way,
					usable.address,
					usable.key,
					studentIds,
					step,
					usable.overWish ?? false
				);
		}
		if (reached) recipients.push({ personId, because });
		else {
			// Ways put away by hand are the reason where no other is left.
			const why: Reason[] = reasons.length > 0 ? reasons : [{ code: 'way-by-hand' }];
			leftOut.push({ personId, studentIds, reasons: why, reached: false });
		}
	}

	const reached = new Set(recipients.map((r) => r.personId));
	leftOut.push(...passedOver(resolved.excluded, reached));
	const informed = informedCopies(roster, handling, reached, copies);
	for (const { personId, reasons } of informed.notReached) {
		if (leftOut.some((l) => l.personId === personId)) continue;
		leftOut.push({ personId, studentIds: [], reasons, reached: false });
	}
	const manifest: Manifest = {
		students: resolved.students,
		takenOut: resolved.takenOut,
		outByLine: resolved.outByLine,
		sectionOf: resolved.sectionOf,
		byLine: resolved.byLine,
		recipients,
		informed: informed.reached,
		copies,
		notByWay,
		leftOut
	};
	return withOutByLine(manifest);
}

/** Those who were passed over, a row for each person and reason: also for one child where they are written to for another. */
function passedOver(
	excluded: Resolved['excluded'],
	reached: ReadonlySet<number>
): Iterable<LeftOut> {
	const rows = new Map<string, LeftOut & { studentIds: number[] }>();
	for (const { personId, studentId, reason } of excluded) {
		const key = `${personId} ${JSON.stringify(reason)}`;
		let row = rows.get(key);
		if (!row) {
			row = { personId, studentIds: [], reasons: [reason], reached: reached.has(personId) };
			rows.set(key, row);
		}
		if (studentId !== null) row.studentIds.push(studentId);
	}
	return rows.values();
}

/**
 * Lists whom a line took out, for students of whom no copy speaks: then a reason stands beside each
 * of the student's people. Where somebody else is written to for the student it would say only what
 * the line says.
 */
export function withOutByLine<M extends Manifest>(manifest: M): M {
	if (manifest.outByLine.length === 0) return manifest;
	const spokenOf = studentsSpokenOf(manifest.copies);
	const listed = new Set(
		manifest.leftOut.flatMap((l) =>
			l.reasons.some((r) => r.code === 'by-line')
				? l.studentIds.map((s) => `${l.personId} ${s}`)
				: []
		)
	);
	const reached = new Set(manifest.recipients.map((r) => r.personId));
	const more: LeftOut[] = [];
	for (const { personId, studentId, line } of manifest.outByLine) {
		if (spokenOf.has(studentId) || listed.has(`${personId} ${studentId}`)) continue;
		more.push({
			personId,
			studentIds: [studentId],
			reasons: [{ code: 'by-line', line }],
			reached: reached.has(personId)
		});
	}
	return more.length === 0 ? manifest : { ...manifest, leftOut: [...manifest.leftOut, ...more] };
}

/** Every student that one of these copies speaks of. */
export function studentsSpokenOf(copies: readonly Pick<PlannedCopy, 'studentIds'>[]): Set<number> {
	const spokenOf = new Set<number>();
	for (const copy of copies) for (const id of copy.studentIds) spokenOf.add(id);
	return spokenOf;
}

/**
 * Adds one copy for each who is to be informed, by mail if they have it, else to the inbox; whoever
 * is written to anyway gets no second one. Nobody is informed of a dispatch that goes to nobody. Who
 * cannot be informed comes back with the reasons.
 */
function informedCopies(
	roster: Roster,
	handling: Handling,
	written: ReadonlySet<number>,
	copies: OpenCopy[]
): { reached: number[]; notReached: { personId: number; reasons: Reason[] }[] } {
	const reached: number[] = [];
	const notReached: { personId: number; reasons: Reason[] }[] = [];
	if (written.size === 0) return { reached, notReached };
	for (const personId of new Set(handling.informed)) {
		if (written.has(personId)) continue;
		const reasons: Reason[] = [];
		for (const way of ['email', 'inbox'] as const) {
			const usable = usableAddress(roster, personId, way, handling.kind);
			if ('reason' in usable) {
				reasons.push(usable.reason);
				continue;
			}
			copies.push({
				personId,
				way,
				address: usable.address,
				studentIds: [],
				alsoFor: [],
				step: 0,
				overWish: false
			});
			reached.push(personId);
			break;
		}
		if (!reached.includes(personId)) notReached.push({ personId, reasons });
	}
	return { reached, notReached };
}
