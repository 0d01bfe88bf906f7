import type { Reason } from '../audience/reasons';
import type { Roster } from '../roster/roster';
import { withOutByLine } from './left-out';
import type { LeftOut, Manifest, NotByWay, PlannedCopy } from './manifest';
import { readerMoments, type ReaderMoment } from './reader-moments';
import type { QuietBook } from './reader-rules';
import type { Way } from '../roster/way';

/** When one dispatch leaves, and what binds its copies. */
export interface Departure {
	/** Instants, ms. */
	readonly leavesAt: number;
	/** The instant of each turn after the first; a copy waits for that of its step. */
	readonly turnsAt: readonly number[];
	/** No copy leaves at or after this; null where it never goes stale. */
	readonly endsAt: number | null;
	/** The instant at which the event begins that it is a reminder of; null for what is none. */
	readonly eventAt: number | null;
	/** Urgent copies keep to no quiet hours. */
	readonly urgent: boolean;
	/** Copies a minute by way; what is missing has no bound. */
	readonly pace: Readonly<Partial<Record<Way, number>>>;
	/** Which school comes first among equals: a number that differs from dispatch to dispatch. */
	readonly turn: number;
}

/** A manifest with the moment of each copy. */
export interface TimedManifest extends Manifest {
	readonly leavesAt: number;
	/** When each of `copies` leaves, in their order. */
	readonly dueAt: readonly number[];
	/** Until when quiet holds each of `copies` back, or null for those that leave with the rest. */
	readonly quietUntil: readonly (number | null)[];
	/** Which of `copies` leave in their readers' daily digests. */
	readonly inDigest: readonly boolean[];
}

const minuteMs = 60_000;

/**
 * The order in which copies of one minute leave: each school's are spread evenly over the whole
 * run, so that none is last every time; among equals the first school changes with the turn.
 */
export function fairOrder(schoolOf: readonly number[], turn: number): number[] {
	const size = new Map<number, number>();
	for (const school of schoolOf) size.set(school, (size.get(school) ?? 0) + 1);
	const schools = [...size.keys()].sort((a, b) => a - b);
	const place = new Map(
		schools.map((s, i) => [s, (i + schools.length - (turn % schools.length)) % schools.length])
	);
	const seen = new Map<number, number>();
	const share = schoolOf.map((school) => {
		const n = seen.get(school) ?? 0;
		seen.set(school, n + 1);
		return (n + 0.5) / size.get(school)!;
	});
	return schoolOf
		.map((_, i) => i)
		.sort(
			(a, b) =>
				share[a]! - share[b]! || place.get(schoolOf[a]!)! - place.get(schoolOf[b]!)! || a - b
		);
}

/** The instant from which a copy of a turn (the first is 0) is of no use to a reader who is told later; null where that never comes. */
export function usefulUntil(
	{ turnsAt, endsAt, eventAt }: Pick<Departure, 'turnsAt' | 'endsAt' | 'eventAt'>,
	step: number
): number | null {
	const ends = [endsAt, eventAt, turnsAt[step] ?? null].filter((at) => at !== null);
	return ends.length === 0 ? null : Math.min(...ends);
}

/** The instant at which a turn wants to leave, ms. */
export const wantedAt = (
	{ leavesAt, turnsAt }: Pick<Departure, 'leavesAt' | 'turnsAt'>,
	step: number
): number => (step === 0 ? leavesAt : (turnsAt[step - 1] ?? leavesAt));

/** The moment of each copy, in the order of the copies. */
interface Moments {
	/** Instants, ms: when it would leave but for quiet and the digest. */
	readonly wanted: readonly number[];
	/** When its reader lets it leave; null where there is no such moment. */
	readonly base: readonly (ReaderMoment | null)[];
	/** And then the pace. */
	readonly due: readonly (number | null)[];
}

/** The moments of the copies: moved on out of quiet, and then so far apart as the pace of their way asks. What goes together in a digest is not drawn apart. */
function momentsOf(
	copies: readonly PlannedCopy[],
	roster: Roster,
	departure: Departure,
	book: QuietBook
): Moments {
	const { urgent, pace, turn } = departure;
	const rulesOf = urgent ? null : readerMoments(roster, book);
	const allowed = rulesOf ? copies.map(rulesOf) : [];
	const next = (i: number, at: number): ReaderMoment | null =>
		rulesOf ? allowed[i]!(at, usefulUntil(departure, copies[i]!.step)) : { at, digest: false };
	const wanted = copies.map(({ step }) => wantedAt(departure, step));
	const base = wanted.map((at, i) => next(i, at));
	const due: (number | null)[] = base.map((b) => b?.at ?? null);
	for (const way of new Set(copies.map((c) => c.way))) {
		const perMinute = pace[way];
		if (!perMinute) continue;
		const mine = copies.flatMap((c, i) => (c.way === way && base[i]?.digest === false ? [i] : []));
		if (mine.length <= perMinute) continue;
		const order = fairOrder(
			mine.map((i) => roster.person(copies[i]!.studentIds[0] ?? 0)?.schoolId ?? 0),
			turn
		).map((n) => mine[n]!);
		// Those that leave at the same moment share its minutes.
		const gone = new Map<number, number>();
		for (const i of order) {
			const from = base[i]!.at;
			const n = gone.get(from) ?? 0;
			gone.set(from, n + 1);
			const paced = from + Math.floor(n / perMinute) * minuteMs;
			due[i] = paced === from ? from : (next(i, paced)?.at ?? null);
		}
	}
	return { wanted, base, due };
}

/** Everyone who reads a copy. */
const readersOf = (copy: PlannedCopy): readonly number[] => [copy.personId, ...copy.alsoFor];

/** A manifest without the copies that have a reason not to leave; who loses by it is left out with that reason. */
function withoutLate(manifest: Manifest, reasonOf: readonly (Reason | null)[]): Manifest {
	const copies = manifest.copies.filter((_, i) => reasonOf[i] === null);
	const still = new Set<number>();
	/** Person and student: of whom a copy that leaves speaks to them. */
	const told = new Set<string>();
	for (const copy of copies) {
		for (const personId of readersOf(copy)) {
			still.add(personId);
			copy.studentIds.forEach((s) => told.add(`${personId} ${s}`));
		}
	}
	const meantFor = new Map(
		manifest.recipients.map((r) => [r.personId, new Set(r.because.map((b) => b.studentId))])
	);
	const missed = new Map<string, LeftOut & { studentIds: number[] }>();
	const notByWay: NotByWay[] = [...manifest.notByWay];
	manifest.copies.forEach((copy, i) => {
		const reason = reasonOf[i];
		if (!reason) return;
		for (const personId of readersOf(copy)) {
			notByWay.push({ personId, way: copy.way, reason });
			const mine = meantFor.get(personId);
			const lost = copy.studentIds.filter((s) => mine?.has(s) && !told.has(`${personId} ${s}`));
			if (still.has(personId) && lost.length === 0) continue;
			let row = missed.get(`${personId} ${reason.code}`);
			if (!row) {
				row = { personId, studentIds: [], reasons: [reason], reached: still.has(personId) };
				missed.set(`${personId} ${reason.code}`, row);
			}
			for (const s of lost) if (!row.studentIds.includes(s)) row.studentIds.push(s);
		}
	});
	return {
		...manifest,
		copies,
		recipients: manifest.recipients.filter((r) => still.has(r.personId)),
		informed: manifest.informed.filter((id) => still.has(id)),
		notByWay,
		leftOut: [
			// Who was reached only by what does not leave is reached no more.
			...manifest.leftOut.map((l) =>
				l.reached && !still.has(l.personId) ? { ...l, reached: false } : l
			),
			...missed.values()
		]
	};
}

/**
 * Gives each copy of a manifest its moment: the time the dispatch leaves, moved on out of quiet
 * hours and days by the reader's own clock, and then by the pace. A copy whose moment would come at
 * or after the end is not sent; who has no other copy is left out with that reason.
 */
export function timed(
	manifest: Manifest,
	roster: Roster,
	departure: Departure,
	book: QuietBook
): TimedManifest {
	const { leavesAt, endsAt } = departure;
	const { wanted, base, due } = momentsOf(manifest.copies, roster, departure, book);
	const late = due.map((at): Reason | null => {
		if (at === null) return { code: 'no-allowed-time' };
		return endsAt !== null && at >= endsAt ? { code: 'past-end' } : null;
	});
	const kept = late.flatMap((reason, i) => (reason ? [] : [i]));
	const times = {
		leavesAt,
		dueAt: kept.map((i) => due[i]!),
		quietUntil: kept.map((i) =>
			base[i]!.digest || base[i]!.at === wanted[i] ? null : base[i]!.at
		),
		inDigest: kept.map((i) => base[i]!.digest)
	};
	if (kept.length === late.length) return { ...manifest, ...times };
	return withOutByLine({ ...withoutLate(manifest, late), ...times });
}

/** Copies that quiet moves to the same moment. */
interface Shift {
	/** Instant, ms. */
	readonly to: number;
	readonly copies: number;
}

/** When the copies of a manifest leave, counted. */
export interface TimesTally {
	/** Instants, ms; null where there is no copy. */
	readonly firstAt: number | null;
	readonly lastAt: number | null;
	readonly shifted: number;
	readonly shifts: readonly Shift[];
	/** Copies that leave in their readers' daily digests, each at its reader's time. */
	readonly inDigests: number;
}

export function timesTally({
	dueAt,
	quietUntil,
	inDigest
}: Pick<TimedManifest, 'dueAt' | 'quietUntil' | 'inDigest'>): TimesTally {
	let firstAt: number | null = null;
	let lastAt: number | null = null;
	for (const at of dueAt) {
		if (firstAt === null || at < firstAt) firstAt = at;
		if (lastAt === null || at > lastAt) lastAt = at;
	}
	const to = new Map<number, number>();
	for (const at of quietUntil) if (at !== null) to.set(at, (to.get(at) ?? 0) + 1);
	const shifts = [...to].map(([at, n]) => ({ to: at, copies: n })).sort((a, b) => a.to - b.to);
	return {
		...{ firstAt, lastAt, shifts },
		shifted: shifts.reduce((sum, s) => sum + s.copies, 0),
		inDigests: inDigest.filter(Boolean).length
	};
}
