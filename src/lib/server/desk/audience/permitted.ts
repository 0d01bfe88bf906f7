import {
	isPeopleLine,
	type Audience,
	type AudienceLine,
	type Condition,
	type People,
	type StudentSet
} from '../../../core/audience/audience';
import { sectionsOf } from '../../../core/audience/named';
import type { Facts, JoinedGroup } from '../../../core/audience/facts';
import { sectionsRefused, staffSchools, studentsAllowed } from '../../access/allowed';
import type { User } from '../../access/user';
import type { Query } from '../../db/open';
import { readFacts, type Gone } from './facts';
import type { ContactRow, StaffRow } from '../../db/models/roster';

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
function withoutGone(audience: Audience, gone: readonly Gone[]): Audience {
	const [dispatches, lists, markers, groups] = (
		['dispatch', 'list', 'marker', 'group'] as const
	).map((kind) => goneOf(gone, kind)) as [
		ReadonlySet<number>,
		ReadonlySet<number>,
		ReadonlySet<number>,
		ReadonlySet<number>
	];
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
	const peopleThere = (people: People): People => {
		if (people.kind === 'joined')
			return { ...people, groupIds: people.groupIds.filter((id) => !groups.has(id)) };
		return people.kind === 'list' && lists.has(people.keptId) ? { kind: 'named', ids: [] } : people;
	};
	const seen = (c: Condition) =>
		!((c.kind === 'outcome' || c.kind === 'coming') && dispatches.has(c.dispatchId)) &&
		!(c.kind === 'marker' && markers.has(c.markerId));
	return {
		...audience,
		lines: audience.lines.map((line): AudienceLine => {
			const only = line.only.filter(seen);
			if (!isPeopleLine(line)) return { ...line, of: set(line.of), only };
			return { ...line, people: peopleThere(line.people), only };
		})
	};
}

/** Whom a user may write to and know, where that is not everyone. */
interface Own {
	readonly students: ReadonlySet<number>;
	/** Own students, the people tied to them, and the staff of own schools. */
	readonly known: (personId: number) => boolean;
	readonly schools: readonly number[];
}

async function ownOf(db: Query, user: User, allowed: readonly number[]): Promise<Own> {
	const ids = (rows: readonly { id: number }[]) => new Set(rows.map((r) => r.id));
	const students = new Set(allowed);
	const schools = staffSchools(user) ?? [];
	const tied = ids(
		await db.all<{ id: ContactRow['personId'] }>(
			`SELECT DISTINCT person_id AS id FROM contact_now AS contact
			WHERE student_id IN (SELECT value FROM json_each($ids))`,
			{ ids: JSON.stringify(allowed) }
		)
	);
	const staff = ids(
		await db.all<{ id: StaffRow['personId'] }>(
			`SELECT person_id AS id FROM staff WHERE school_id IN (SELECT value FROM json_each($schools))`,
			{ schools: JSON.stringify(schools) }
		)
	);
	return {
		students,
		schools,
		known: (id) => students.has(id) || tied.has(id) || staff.has(id)
	};
}

/** Takes out of sets whom the user may not write to or know, and keeps count of it. */
function cutting(own: Own, forbiddenSections: ReadonlySet<number>) {
	const done = { people: false, students: 0 };
	const students = (set: StudentSet): StudentSet => {
		switch (set.kind) {
			case 'sections':
				return { ...set, ids: set.ids.filter((id) => !forbiddenSections.has(id)) };
			case 'students': {
				const ids = set.ids.filter((id) => own.students.has(id));
				done.students += set.ids.length - ids.length;
				return { ...set, ids };
			}
			case 'any':
			case 'all':
				return { ...set, of: set.of.map(students) };
			case 'except':
				return {
					...set,
					from: students(set.from),
					// What is taken away may be anybody's section, but names no student of others.
					minus: set.minus.kind === 'sections' ? set.minus : students(set.minus)
				};
			default:
				return set;
		}
	};
	const people = (set: People): People => {
		switch (set.kind) {
			case 'staff': {
				const kept = set.schoolIds.filter((id) => own.schools.includes(id));
				if (kept.length > 0 && kept.length === set.schoolIds.length) return set;
				done.people = true;
				return kept.length > 0 ? { ...set, schoolIds: kept } : { kind: 'named', ids: [] };
			}
			case 'named': {
				const kept = set.ids.filter(own.known);
				if (kept.length < set.ids.length) done.people = true;
				return { ...set, ids: kept };
			}
			// Only groups that the user looks after are there at all.
			case 'joined':
			case 'list':
				return set;
		}
	};
	return { students, people, done };
}

/** One who joined stays in for themselves where the student is another office's. */
const forOwn = (own: Own, member: JoinedGroup['members'][number]): typeof member =>
	member.studentId !== null && !own.students.has(member.studentId)
		? { ...member, studentId: null }
		: member;

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
	const allowed = await studentsAllowed(db, user);
	if (allowed === null) {
		const spoken = gone.length === 0 ? audience : withoutGone(audience, gone);
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
	const own = await ownOf(db, user, allowed);
	const { forbidden } = await sectionsRefused(db, user, sectionsOf(audience));
	const cut = cutting(own, new Set(forbidden.map((s) => s.id)));
	const there = withoutGone(audience, gone);
	const spoken: Audience = {
		...audience,
		lines: there.lines.map((line): AudienceLine =>
			isPeopleLine(line)
				? { ...line, people: cut.people(line.people) }
				: { ...line, of: cut.students(line.of) }
		),
		byHand: audience.byHand.filter((h) => h.way === 'out' && own.known(h.personId))
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
			joined: (id) => {
				const group = facts.joined(id);
				return group && { ...group, members: group.members.map((m) => forOwn(own, m)) };
			},
			list: (id) =>
				facts
					.list(id)
					?.filter((e) =>
						e.studentId === null ? own.known(e.personId) : own.students.has(e.studentId)
					)
		},
		gone,
		peopleCut: cut.done.people,
		studentsCut: cut.done.students,
		sectionsRefused: forbidden.map((s) => s.name),
		kept: audience.lines.some((l) => l.verb === 'and' && !isPeopleLine(l) && isWide(l.of))
	};
}
