import {
	isPeopleLine,
	sectionsOf,
	type Audience,
	type AudienceLine,
	type Condition,
	type People,
	type StudentSet
} from '../../../core/audience/audience';
import type { Facts } from '../../../core/audience/facts';
import { sectionsRefused, staffSchools, studentsAllowed } from '../../access/allowed';
import type { User } from '../../access/sessions';
import type { Query } from '../../db/open';
import { readFacts, type Gone } from './facts';

/** What of an audience a user may see. */
export interface Permitted {
	/** Cut down to the students the user may write to: numbers, names and addresses come from this one. */
	readonly shown: Audience;
	/** The same lines as they may be put into words: it names nobody and nothing the user may not see. */
	readonly spoken: Audience;
	/** What the lines ask beside the roster, as far as the user may know it. */
	readonly facts: Facts;
	/** Earlier dispatches and fixed lists that are not there for this user. */
	readonly gone: readonly Gone[];
	/** Whether people picked for themselves had to be cut away. */
	readonly peopleCut: boolean;
	/** Students picked one by one whom the user may not write to. Of a group, a school or a grade nobody is told how many were cut: it would say who is in it. */
	readonly studentsCut: number;
	/** Names of the sections picked that the user may not write to. */
	readonly sectionsRefused: readonly string[];
	/** Whether picks other than sections and single students were kept to the user's own students. */
	readonly kept: boolean;
}

/** Whether a set of students is picked by more than sections and single students. */
function isWide(set: StudentSet): boolean {
	switch (set.kind) {
		case 'sections':
		case 'students':
		case 'uncovered':
			return false;
		case 'any':
		case 'all':
			return set.of.some(isWide);
		case 'except':
			return isWide(set.from);
		default:
			return true;
	}
}

const goneOf = (gone: readonly Gone[], kind: Gone['kind']): ReadonlySet<number> =>
	new Set(gone.filter((g) => g.kind === kind).map((g) => g.id));

/** The audience without what is not there for its writer: nobody learns the subject of a dispatch or the name of a list from a number. */
function withoutGone(
	audience: Audience,
	dispatches: ReadonlySet<number>,
	lists: ReadonlySet<number>
): Audience {
	const set = (s: StudentSet): StudentSet => {
		switch (s.kind) {
			case 'uncovered':
				return { ...s, ids: s.ids.filter((id) => !dispatches.has(id)) };
			case 'any':
			case 'all':
				return { ...s, of: s.of.map(set) };
			case 'except':
				return { ...s, from: set(s.from), minus: set(s.minus) };
			default:
				return s;
		}
	};
	const seen = (c: Condition) => c.kind !== 'outcome' || !dispatches.has(c.dispatchId);
	return {
		...audience,
		lines: audience.lines.map((line): AudienceLine => {
			const only = line.only.filter(seen);
			if (!isPeopleLine(line)) return { ...line, of: set(line.of), only };
			const { people } = line;
			const gone = people.kind === 'list' && lists.has(people.keptId);
			return { ...line, people: gone ? { kind: 'named', ids: [] } : people, only };
		})
	};
}

/**
 * Cuts an audience down to what a user may see, whatever a browser sends. Of single people only
 * those tied to the user's own students stay, and nobody is put in: that is the district office's.
 * For the district office it is the audience itself.
 */
export async function permitted(
	db: Query,
	user: User,
	audience: Audience,
	chases: number | null = null
): Promise<Permitted> {
	const { gone, ...facts } = await readFacts(db, user, audience, chases);
	const unseen = goneOf(gone, 'dispatch');
	const lists = goneOf(gone, 'list');
	const allowed = await studentsAllowed(db, user);
	if (allowed === null) {
		const spoken = unseen.size + lists.size === 0 ? audience : withoutGone(audience, unseen, lists);
		return {
			shown: audience,
			spoken,
			facts,
			gone,
			peopleCut: false,
			studentsCut: 0,
			sectionsRefused: [],
			kept: false
		};
	}
	const mine = new Set(allowed);
	const { forbidden } = await sectionsRefused(db, user, sectionsOf(audience));
	const no = new Set(forbidden.map((s) => s.id));
	let studentsCut = 0;
	const without = (set: StudentSet): StudentSet => {
		switch (set.kind) {
			case 'sections':
				return { ...set, ids: set.ids.filter((id) => !no.has(id)) };
			case 'students': {
				const own = set.ids.filter((id) => mine.has(id));
				studentsCut += set.ids.length - own.length;
				return { ...set, ids: own };
			}
			case 'any':
			case 'all':
				return { ...set, of: set.of.map(without) };
			case 'except':
				return { ...set, from: without(set.from), minus: withoutStudents(set.minus) };
			default:
				return set;
		}
	};
	/** What is taken away may be anybody's section, but names no student of others. */
	const withoutStudents = (set: StudentSet): StudentSet =>
		set.kind === 'sections' ? set : without(set);
	const ids = (rows: readonly { id: number }[]) => new Set(rows.map((r) => r.id));
	const tied = ids(
		await db.all<{ id: number }>(
			`SELECT DISTINCT person_id AS id FROM contact
			WHERE student_id IN (SELECT value FROM json_each($ids))`,
			{ ids: JSON.stringify(allowed) }
		)
	);
	const schools = staffSchools(user) ?? [];
	const staff = ids(
		await db.all<{ id: number }>(
			`SELECT person_id AS id FROM staff WHERE school_id IN (SELECT value FROM json_each($schools))`,
			{ schools: JSON.stringify(schools) }
		)
	);
	const may = (id: number) => mine.has(id) || tied.has(id) || staff.has(id);
	let peopleCut = false;
	const peopleWithout = (people: People): People => {
		switch (people.kind) {
			case 'staff': {
				const kept =
					people.schoolIds.length === 0
						? []
						: people.schoolIds.filter((id) => schools.includes(id));
				if (kept.length > 0 && kept.length === people.schoolIds.length) return people;
				peopleCut = true;
				return kept.length > 0 ? { ...people, schoolIds: kept } : { kind: 'named', ids: [] };
			}
			case 'named': {
				const kept = people.ids.filter(may);
				if (kept.length < people.ids.length) peopleCut = true;
				return { ...people, ids: kept };
			}
			case 'list':
				return people;
		}
	};
	const there = withoutGone(audience, unseen, lists);
	const spoken: Audience = {
		...audience,
		lines: there.lines.map((line): AudienceLine =>
			isPeopleLine(line)
				? { ...line, people: peopleWithout(line.people) }
				: { ...line, of: without(line.of) }
		),
		byHand: audience.byHand.filter((h) => h.way === 'out' && may(h.personId))
	};
	return {
		spoken,
		shown: {
			...spoken,
			lines: spoken.lines.map((line) =>
				isPeopleLine(line)
					? line
					: { ...line, of: { kind: 'all', of: [line.of, { kind: 'students', ids: allowed }] } }
			)
		},
		facts: {
			...facts,
			list: (id) =>
				facts
					.list(id)
					?.filter((e) => (e.studentId === null ? may(e.personId) : mine.has(e.studentId)))
		},
		gone,
		peopleCut,
		studentsCut,
		sectionsRefused: forbidden.map((s) => s.name),
		kept: audience.lines.some((l) => l.verb === 'and' && !isPeopleLine(l) && isWide(l.of))
	};
}
