import { type Audience } from '../../../core/audience/audience';
import { dispatchesOf, joinedGroupsOf, listsOf, markersOf } from '../../../core/audience/named';
import type { Facts, JoinedGroup, ListEntry } from '../../../core/audience/facts';
import { isCovered } from '../../../core/track/coverage';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { chainOf } from '../track/chase-chain';
import { habitsOf } from '../expect/habits';
import { coverageBy } from '../track/coverage';
import type { Query } from '../../db/open';
import { comingStates } from '../../db/coming';
import { isRead } from '../../db/copy-state';
import { districtDay } from '../../db/district';
import { marksOf } from '../../db/markers';
import { markersThere } from './markers-seen';
import type { DispatchRow, DispatchStudentRow, KeptAudienceRow } from '../../db/models/dispatch';

/** What is not there for a user: an earlier dispatch of the lines, the one that is followed up, a fixed list, a marker, an open group. */
export interface Gone {
	readonly kind: 'dispatch' | 'chased' | 'list' | 'marker' | 'group';
	readonly id: number;
}

/** It in words. */
export const goneWords = ({ kind, id }: Gone): string =>
	({
		dispatch: `The earlier dispatch #${id}`,
		chased: 'The dispatch that this one follows up',
		list: `The fixed list #${id}`,
		marker: `The marker #${id}`,
		group: `The open group #${id}`
	})[kind];

/** What an audience asks beside the roster, as far as the user may know it; and what of it is not there for them. */
export interface KnownFacts extends Facts {
	readonly gone: readonly Gone[];
}

const none: KnownFacts = {
	uncovered: () => [],
	stoodUnder: () => null,
	hasRead: () => false,
	coming: () => 'unsaid',
	tried: () => 0,
	reads: () => null,
	mark: () => null,
	list: () => undefined,
	joined: () => undefined,
	gone: []
};

/** Reads the facts that an audience needs and no others. */
export async function readFacts(
	db: Query,
	user: User,
	audience: Audience,
	chases: number | null = null
): Promise<KnownFacts> {
	const [dispatches, lists, markers, groups] = [
		dispatchesOf(audience),
		listsOf(audience),
		markersOf(audience),
		joinedGroupsOf(audience)
	];
	const asked = dispatches.length + lists.length + markers.length + groups.length;
	if (asked === 0 && chases === null) return none;
	const marks = await marksOf(db, await markersThere(db, user, markers));
	const mine = scope(user).dispatches;
	const seen = (
		await db.all<Pick<DispatchRow, 'id'>>(
			`SELECT id FROM dispatch WHERE state != 'draft' AND ${mine.sql}
				AND id IN (SELECT value FROM json_each($ids))`,
			{
				ids: JSON.stringify([...dispatches, ...(chases === null ? [] : [chases])]),
				...mine.bind
			}
		)
	).map((d) => d.id);
	// Asked before anything is read: of a matter that is not theirs, nobody learns who was tried or how they read.
	const matter = chases !== null && seen.includes(chases) ? await chainOf(db, user, chases) : null;
	const tries = matter === null ? new Map<string, number>() : await triesIn(db, matter);
	const habits = matter === null ? null : await habitsOfUnread(db, matter);
	const ids = JSON.stringify(seen);
	const coverages = await coverageBy(db, seen);
	const readers = await readersIn(db, ids);
	const coming = await comingStates(db, seen);
	const uncovered = new Map(
		seen.map((id) => {
			const { unit, standing } = coverages.get(id)!;
			const open = [...standing].flatMap(([student, s]) => (isCovered(s) ? [] : [student]));
			return [id, unit === 'students' ? open : []];
		})
	);
	const under = await sectionsIn(db, ids);
	const entriesOf = await listEntries(db, user, lists);
	const joined = await joinedIn(db, user, groups);
	return {
		uncovered: (id) => uncovered.get(id) ?? [],
		stoodUnder: (id, studentId) => under.get(`${id} ${studentId}`) ?? null,
		hasRead: (id, personId) => readers.has(`${id} ${personId}`),
		coming: (id, personId) => coming.get(`${id} ${personId}`) ?? 'unsaid',
		tried: (personId, way) => tries.get(`${personId} ${way}`) ?? 0,
		reads: (personId, way) => habits?.get(personId)?.[way].share ?? null,
		mark: (id, studentId) => marks.get(id)?.get(studentId) ?? null,
		list: (id) => entriesOf.get(id),
		joined: (id) => joined.get(id),
		gone: [
			...dispatches
				.filter((id) => !uncovered.has(id))
				.map((id): Gone => ({ kind: 'dispatch', id })),
			...(chases === null || matter !== null ? [] : [{ kind: 'chased', id: chases } as const]),
			...lists.filter((id) => !entriesOf.has(id)).map((id): Gone => ({ kind: 'list', id })),
			...markers.filter((id) => !marks.has(id)).map((id): Gone => ({ kind: 'marker', id })),
			...groups.filter((id) => !joined.has(id)).map((id): Gone => ({ kind: 'group', id }))
		]
	};
}

/** Who has read which of some dispatches: "dispatch person". */
async function readersIn(db: Query, ids: string): Promise<Set<string>> {
	const rows = await db.all<{ dispatchId: number; personId: number }>(
		`SELECT dispatch_id AS dispatchId, person_id AS personId FROM delivery
		WHERE ${isRead} AND dispatch_id IN (SELECT value FROM json_each($ids))
		UNION SELECT dispatch_id, delivery_also.person_id FROM delivery_also
		JOIN delivery ON delivery.id = delivery_id
		WHERE ${isRead} AND dispatch_id IN (SELECT value FROM json_each($ids))`,
		{ ids }
	);
	return new Set(rows.map((r) => `${r.dispatchId} ${r.personId}`));
}

/** The section each student of some dispatches stood under: by "dispatch student". */
async function sectionsIn(db: Query, ids: string): Promise<Map<string, number>> {
	const rows = await db.all<
		Pick<DispatchStudentRow, 'dispatchId' | 'studentId'> & { sectionId: number }
	>(
		`SELECT dispatch_id AS dispatchId, student_id AS studentId, section_id AS sectionId
		FROM dispatch_student WHERE section_id IS NOT NULL
			AND dispatch_id IN (SELECT value FROM json_each($ids))`,
		{ ids }
	);
	return new Map(rows.map((r) => [`${r.dispatchId} ${r.studentId}`, r.sectionId]));
}

/** What stands on the fixed lists that a user may see. */
async function listEntries(
	db: Query,
	user: User,
	lists: readonly number[]
): Promise<Map<number, ListEntry[]>> {
	const own = scope(user).kept;
	const entries = await db.all<{
		keptId: KeptAudienceRow['id'];
		personId: number | null;
		studentId: number | null;
		explicit: number | null;
	}>(
		`SELECT kept_audience.id AS keptId, person_id AS personId, student_id AS studentId, explicit
		FROM kept_audience LEFT JOIN kept_person ON kept_id = kept_audience.id
		WHERE form = 'list' AND kept_audience.gone_at IS NULL AND ${own.sql}
			AND kept_audience.id IN (SELECT value FROM json_each($lists))`,
		{ lists: JSON.stringify(lists), ...own.bind }
	);
	const entriesOf = new Map<number, ListEntry[]>();
	for (const { keptId, personId, studentId, explicit } of entries) {
		const list = entriesOf.get(keptId) ?? [];
		entriesOf.set(keptId, list);
		if (personId !== null) list.push({ personId, studentId, explicit: explicit === 1 });
	}
	return entriesOf;
}

/** Who joined which of the open groups that a user looks after. */
async function joinedIn(
	db: Query,
	user: User,
	groups: readonly number[]
): Promise<Map<number, JoinedGroup>> {
	if (groups.length === 0) return new Map();
	const own = scope(user).groups;
	const today = await districtDay(db);
	const rows = await db.all<{
		groupId: number;
		openUntil: string | null;
		personId: number | null;
		studentId: number | null;
	}>(
		`SELECT school_group.id AS groupId, open_until AS openUntil, person_id AS personId, student_id AS studentId
		FROM school_group_now AS school_group LEFT JOIN joining ON group_id = school_group.id AND state = 'in'
		WHERE ${own.sql} AND school_group.id IN (SELECT value FROM json_each($groups)) ORDER BY joining.id`,
		{ groups: JSON.stringify(groups), ...own.bind }
	);
	const joined = new Map<number, { over: boolean; members: JoinedGroup['members'][number][] }>();
	for (const { groupId, openUntil, personId, studentId } of rows) {
		const group = joined.get(groupId) ?? {
			over: openUntil !== null && today > openUntil,
			members: []
		};
		joined.set(groupId, group);
		if (personId !== null) group.members.push({ personId, studentId });
	}
	return joined;
}

/** How often each way was tried with each person in a matter: copies that left, over the dispatch and all that follow it up. */
async function triesIn(db: Query, matter: readonly number[]): Promise<Map<string, number>> {
	const rows = await db.all<{ personId: number; way: string; n: number }>(
		`SELECT personId, way, count(*) AS n FROM (
			SELECT person_id AS personId, way, dispatch_id AS dispatchId, left_at, state FROM delivery
			UNION ALL SELECT delivery_also.person_id, way, dispatch_id, left_at, state FROM delivery_also
				JOIN delivery ON delivery.id = delivery_id)
		WHERE dispatchId IN (SELECT value FROM json_each($ids)) AND (left_at IS NOT NULL OR state = 'failed')
		GROUP BY personId, way`,
		{ ids: JSON.stringify(matter) }
	);
	return new Map(rows.map((r) => [`${r.personId} ${r.way}`, r.n]));
}

/** More people than this are not looked at one by one. */
const mostHabits = 6_000;

/** Reading habits of those in a matter who have read nothing of it; of a very large one of nobody. */
async function habitsOfUnread(
	db: Query,
	matter: readonly number[]
): Promise<Awaited<ReturnType<typeof habitsOf>>> {
	const rows = await db.all<{ id: number }>(
		`SELECT person_id AS id FROM delivery WHERE dispatch_id IN (SELECT value FROM json_each($ids))
		UNION SELECT person_id FROM left_out WHERE dispatch_id IN (SELECT value FROM json_each($ids))
		EXCEPT SELECT person_id FROM delivery
			WHERE dispatch_id IN (SELECT value FROM json_each($ids)) AND ${isRead}
		LIMIT ${mostHabits + 1}`,
		{ ids: JSON.stringify(matter) }
	);
	return rows.length > mostHabits
		? new Map()
		: habitsOf(
				db,
				rows.map((r) => r.id)
			);
}
