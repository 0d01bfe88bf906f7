import { isNeverMeant } from '../../audience/reasons';
import { groupBy } from '../../group-by';
import type { PlannedCopy } from '../../plan/manifest';
import type { TimedManifest } from '../../plan/times';
import type { Roster } from '../../roster/roster';
import { zoneOf, type Clocks } from '../../time/clocks';
import { localOf, weekdayOf } from '../../time/local';
import type { CoverRule } from '../coverage';
import type { CopyAhead, StudentAhead } from './families';
import type { Leaving, ReaderOf } from './past-copy';

/** When an instant is by a clock. */
interface ByClock extends Leaving {
	/** The ISO date. */
	readonly day: string;
}

/** Tells when instants are by their clocks; a quarter of an hour is worked out once. */
export function byClock(): (at: number, zone: string) => ByClock {
	const zones = new Map<string, Map<number, ByClock>>();
	return (at, zone) => {
		let known = zones.get(zone);
		if (!known) zones.set(zone, (known = new Map()));
		const quarter = Math.floor(at / 900_000);
		let moment = known.get(quarter);
		if (!moment) {
			const local = localOf(at, zone);
			const day = local.slice(0, 10);
			moment = { day, hour: Number(local.slice(11, 13)), weekday: weekdayOf(day) - 1 };
			known.set(quarter, moment);
		}
		return moment;
	};
}

/** The school by whose clock a copy is read: its reader’s own, else the first of those whose students it speaks of; null where there is none. */
function schoolOf(
	{ personId, studentIds }: Pick<PlannedCopy, 'personId' | 'studentIds'>,
	roster: Roster
): number | null {
	const own = roster.person(personId)?.schoolId ?? null;
	if (own !== null) return own;
	let first: number | null = null;
	for (const id of studentIds) {
		const school = roster.person(id)?.schoolId ?? null;
		if (school !== null && (first === null || school < first)) first = school;
	}
	return first;
}

/** The copies of a manifest as they will leave, in their order. */
export function copiesAhead(
	{ copies, dueAt }: Pick<TimedManifest, 'copies' | 'dueAt'>,
	roster: Roster,
	clocks: Clocks
): CopyAhead[] {
	const clockOf = byClock();
	const isAdult = (id: number) => roster.person(id)?.kind === 'adult';
	// Where all keep to one clock nobody’s school is asked for. There are tens of thousands of copies while somebody waits.
	const oneClock = clocks.schools.size === 0;
	return copies.map((copy, i): CopyAhead => {
		const { personId, alsoFor, way, step } = copy;
		const at = dueAt[i]!;
		const school = oneClock ? null : schoolOf(copy, roster);
		const { hour, weekday } = clockOf(at, zoneOf(clocks, school));
		return {
			personId,
			householdId: roster.householdsOf(personId)[0] ?? null,
			readers: alsoFor.length === 0 ? [personId] : [personId, ...alsoFor],
			adult: isAdult(personId) || alsoFor.some(isAdult),
			way,
			at,
			step,
			hour,
			weekday
		};
	});
}

/** The adults of each home of a manifest’s students who are meant, written to or not. */
function homesOf(
	manifest: TimedManifest,
	copies: readonly CopyAhead[],
	roster: Roster
): (studentId: number) => StudentAhead['homes'] {
	const meant = new Map<number, Set<number>>(manifest.students.map((id) => [id, new Set()]));
	manifest.copies.forEach(({ studentIds }, i) => {
		for (const id of studentIds) copies[i]!.readers.forEach((reader) => meant.get(id)?.add(reader));
	});
	for (const { personId, studentIds, reasons } of manifest.leftOut)
		if (!reasons.some(isNeverMeant)) studentIds.forEach((id) => meant.get(id)?.add(personId));
	return (studentId) => {
		const people = [...meant.get(studentId)!].filter((id) => roster.person(id)?.kind === 'adult');
		return roster
			.householdsOf(studentId)
			.map((home) => people.filter((id) => roster.householdsOf(id).includes(home)));
	};
}

/** The students of a manifest with the copies that speak of them; where it speaks of none, everybody who gets one is as their own student. Homes are told where the rule asks for each of them. */
export function studentsAhead(
	manifest: TimedManifest,
	copies: readonly CopyAhead[],
	roster: Roster,
	rule: CoverRule
): StudentAhead[] {
	if (manifest.students.length === 0)
		return [...groupBy(copies, (c) => c.personId)].map(([studentId, own]) => ({
			...{ studentId, homes: [] },
			copies: own.map((c) => ({ ...c, adult: true }))
		}));
	const of = new Map<number, CopyAhead[]>(manifest.students.map((id) => [id, []]));
	manifest.copies.forEach(({ studentIds }, i) => {
		for (const id of studentIds) of.get(id)?.push(copies[i]!);
	});
	const homes = rule === 'households' ? homesOf(manifest, copies, roster) : () => [];
	return manifest.students.map((studentId) => ({
		...{ studentId, copies: of.get(studentId)! },
		homes: homes(studentId)
	}));
}

/** Keeps for readers the first of the schools they are written to for; by this a plan and its rows know them. */
export function keepFirst(
	schools: Map<number, number>,
	readers: readonly number[],
	school: number | null
): void {
	if (school === null) return;
	for (const id of readers) schools.set(id, Math.min(school, schools.get(id) ?? school));
}

/** Who readers are, by the roster and the students they are written to for. */
export function readersAhead({ copies }: Pick<TimedManifest, 'copies'>, roster: Roster): ReaderOf {
	const firstSchools = () => {
		const schools = new Map<number, number>();
		for (const copy of copies)
			keepFirst(schools, [copy.personId, ...copy.alsoFor], schoolOf(copy, roster));
		return schools;
	};
	// Only asked for where somebody is known by their school alone.
	let schools: Map<number, number> | null = null;
	return (personId) => ({
		householdId: roster.householdsOf(personId)[0] ?? null,
		schoolId: (schools ??= firstSchools()).get(personId) ?? null,
		language: roster.person(personId)?.language ?? ''
	});
}
