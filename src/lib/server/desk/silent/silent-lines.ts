import { reasonsText, type Reason } from '../../../core/audience/reasons';
import { groupBy } from '../../../core/group-by';
import { homeKey } from '../../../core/audience/family-homes';
import { usableBy } from '../../../core/plan/usable-address';
import { nameOf, relationPhrase } from '../../../core/roster/relation';
import type { Way } from '../../../core/roster/way';
import { unreadWords, wouldReach, type WayOpen } from '../../../core/track/silent-words';
import { districtDay } from '../../db/district';
import { readMany } from '../../db/many';
import type { Query } from '../../db/open';
import { habitsOf } from '../expect/habits';
import { inStretch, type Stretch } from './happened';
import { waysOf, type LookedHome, type LookedOver } from './silent-homes';
import type { SilentLine } from './types';

/** Reasons of one home that are said. */
const mostReasons = 3;

/** What is known of the adults of some homes in a stretch, by person. */
interface Known {
	readonly copies: ReadonlyMap<number, readonly { way: Way; left: number; arrived: number }[]>;
	readonly failures: ReadonlyMap<number, readonly { way: Way; detail: string }[]>;
	readonly leftOut: ReadonlyMap<number, readonly { reasons: string; times: number }[]>;
	readonly lastRead: ReadonlyMap<number, number>;
	/** The dispatches that were meant for somebody, by student. */
	readonly meant: ReadonlyMap<number, readonly number[]>;
}

async function knownOf(db: Query, homes: readonly LookedHome[], stretch: Stretch): Promise<Known> {
	const people = [...new Set(homes.flatMap((h) => h.adults))];
	const bind = { ...stretch, people: JSON.stringify(people) };
	const pairs = await readMany(
		db,
		'student_id, dispatch_id',
		`FROM dispatch_student WHERE student_id IN (SELECT value FROM json_each($students)) AND dispatch_id IN ${inStretch}`,
		(values) => values as [number, number],
		{ ...stretch, students: JSON.stringify(homes.flatMap((h) => h.students)) }
	);
	const meant = new Map(
		[...groupBy(pairs, ([student]) => student)].map(([id, all]) => [id, all.map(([, d]) => d)])
	);
	const named = 'IN (SELECT value FROM json_each($people))';
	const theirs = `(SELECT id, person_id AS person FROM delivery WHERE person_id ${named}
		UNION ALL SELECT delivery_id, person_id FROM delivery_also WHERE person_id ${named})`;
	const copies = await db.all<{ person: number; way: Way; left: number; arrived: number }>(
		`SELECT person, way, count(*) AS left, sum(state != 'failed') AS arrived FROM ${theirs} AS mine
		JOIN delivery ON delivery.id = mine.id WHERE dispatch_id IN ${inStretch} AND left_at <= $until GROUP BY person, way`,
		bind
	);
	const failures = await db.all<{ person: number; way: Way; detail: string }>(
		`SELECT person, way, coalesce(event.detail, '') AS detail FROM ${theirs} AS mine JOIN delivery ON delivery.id = mine.id
		JOIN event ON event.id = (SELECT max(id) FROM event WHERE delivery_id = delivery.id AND kind = 'failed')
		WHERE dispatch_id IN ${inStretch} AND delivery.state = 'failed' AND left_at <= $until
		GROUP BY person, way, detail ORDER BY count(*) DESC`,
		bind
	);
	const leftOut = await db.all<{ person: number; reasons: string; times: number }>(
		`SELECT person_id AS person, reasons, count(DISTINCT dispatch_id) AS times FROM left_out
		WHERE person_id ${named} AND dispatch_id IN ${inStretch} AND NOT reached GROUP BY person, reasons ORDER BY times DESC`,
		bind
	);
	const lastRead = await db.all<{ person: number; at: number }>(
		`SELECT person, max(read_at) AS at FROM ${theirs} AS mine JOIN delivery ON delivery.id = mine.id
		WHERE read_at IS NOT NULL GROUP BY person`,
		{ people: bind.people }
	);
	const by = <T extends { person: number }>(rows: readonly T[]) => groupBy(rows, (r) => r.person);
	return {
		copies: by(copies),
		failures: by(failures),
		leftOut: by(leftOut),
		lastRead: new Map(lastRead.map((r) => [r.person, r.at])),
		meant
	};
}

/** When homes were last spoken to, by their keys. */
async function spokenOf(db: Query): Promise<Map<string, NonNullable<SilentLine['spoken']>>> {
	const rows = await db.all<{
		householdId: number | null;
		studentId: number | null;
		at: number;
		by: string;
		words: string;
	}>(
		`SELECT household_id AS householdId, student_id AS studentId, at, words,
			coalesce(trim(given_name || ' ' || family_name), 'somebody') AS by
		FROM spoken_to LEFT JOIN person ON person.id = by_id ORDER BY at`
	);
	return new Map(rows.map(({ at, by, words, ...home }) => [homeKey(home), { at, by, words }]));
}

/** Why nothing reached a home, a phrase each. */
function whyOf(home: LookedHome, { roster, usable }: LookedOver, known: Known): string[] {
	const name = (id: number) => nameOf(roster, id);
	const silence = home.silence;
	if (silence === 'no-way') {
		if (home.adults.length === 0)
			return home.unsaid.length > 0
				? home.unsaid.map((id) => `${name(id)}: nobody has said yet whether they have custody`)
				: ['no guardian on file who may be written to'];
		return home.adults.map((id) => {
			const reasons = Object.values(usable(id)).flatMap((u) => ('reason' in u ? [u.reason] : []));
			return `${name(id)}: ${reasonsText(reasons.flat())}`;
		});
	}
	if (silence === 'left-out')
		return home.adults.flatMap((id) =>
			(known.leftOut.get(id) ?? []).slice(0, mostReasons).map(({ reasons, times }) => {
				const why = reasonsText(JSON.parse(reasons) as Reason[]);
				return `${name(id)}, ${times === 1 ? 'once' : `${times} times`}: ${why}`;
			})
		);
	if (silence === 'not-arrived')
		return home.adults.flatMap((id) =>
			(known.failures.get(id) ?? [])
				.slice(0, mostReasons)
				.map(({ way, detail }) => `${name(id)}, ${way}: ${detail || 'came back'}`)
		);
	return home.adults.flatMap((id) => {
		const copies = known.copies.get(id) ?? [];
		return copies.some((c) => c.arrived > 0) ? [`${name(id)}: ${unreadWords(copies)}`] : [];
	});
}

/** Homes that nothing reached, with all that is known of why. `expecting` has also what is to be expected of ways that were not tried. */
export async function silentLines(
	db: Query,
	looked: LookedOver,
	homes: readonly LookedHome[],
	stretch: Stretch,
	{ expecting }: { readonly expecting: boolean }
): Promise<SilentLine[]> {
	const { roster, usable } = looked;
	const people = [...new Set(homes.flatMap((h) => h.adults))];
	const known = await knownOf(db, homes, stretch);
	const habits = expecting ? await habitsOf(db, people) : null;
	const announced = usableBy(roster, { kind: 'announcement', urgent: false });
	const spoken = await spokenOf(db);
	const schools = new Map(
		(await db.all<{ id: number; name: string }>('SELECT id, name FROM school')).map((s) => [
			s.id,
			s.name
		])
	);
	const sections = await sectionsOf(
		db,
		homes.flatMap((h) => h.students)
	);
	return homes.map((home): SilentLine => {
		const numbersOf = (id: number) => [
			...new Set(roster.addressesOf(id).flatMap((a) => (a.way === 'text' ? [a.usable] : [])))
		];
		const open = home.adults.flatMap((id) =>
			waysOf(usable(id)).map((way): WayOpen => ({
				way,
				messagesOnly: 'reason' in announced(id)[way],
				tried: (known.copies.get(id) ?? []).some((c) => c.way === way),
				share: habits?.get(id)?.[way].share ?? null
			}))
		);
		const callable = [...home.adults, ...(home.adults.length === 0 ? home.unsaid : [])];
		const reads = home.adults.flatMap((id) => known.lastRead.get(id) ?? []);
		const meant = new Set(home.students.flatMap((id) => known.meant.get(id) ?? [])).size;
		return {
			...{ householdId: home.householdId, studentId: home.studentId, kind: home.silence! },
			...{ left: home.left, arrived: home.arrived, meant },
			students: home.students.map((id) => ({
				...{ id, name: nameOf(roster, id), section: sections.get(id) ?? '' }
			})),
			school: schools.get(home.schoolId ?? 0) ?? 'no school',
			adults: callable.map((personId) => ({
				...{ personId, name: nameOf(roster, personId), numbers: numbersOf(personId) },
				relation: relationPhrase(roster, personId, home.students),
				language: roster.person(personId)!.language
			})),
			why: whyOf(home, looked, known),
			try: wouldReach(open, {
				numbers: callable.flatMap(numbersOf).length,
				...{ unsaid: home.unsaid.length, adults: home.adults.length }
			}),
			lastReadAt: reads.length === 0 ? null : Math.max(...reads),
			spoken: spoken.get(homeKey(home)) ?? null
		};
	});
}

/** The first section of each student in the terms that run, for whoever looks for them at school. */
async function sectionsOf(db: Query, ids: readonly number[]): Promise<Map<number, string>> {
	const rows = await db.all<{ id: number; name: string }>(
		`SELECT student_id AS id, section.name FROM enrolment_now AS enrolment JOIN section_now AS section ON section.id = section_id
		JOIN term ON term.id = section.term_id AND starts_on <= $today AND ends_on > $today
		WHERE student_id IN (SELECT value FROM json_each($ids)) ORDER BY section.id DESC`,
		{ ids: JSON.stringify(ids), today: await districtDay(db) }
	);
	return new Map(rows.map((r) => [r.id, r.name]));
}
