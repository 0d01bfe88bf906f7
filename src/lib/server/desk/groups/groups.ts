import { scope } from '../../access/may';
import type { User } from '../../access/user';
import type { Db } from '../../db/open';
import { readRoster } from '../../db/roster';
import { keptNames } from '../audience/kept';
import { lineOf } from '../places/place';
import { reachLines } from '../places/reach';
import { lastSent } from '../places/sent';
import type { GroupLine, GroupView, MemberNote } from './types';

const joinedNow = `(SELECT count(*) FROM joining WHERE group_id = school_group.id AND state = 'in')`;

/** The groups that a user looks after, by name. */
export async function groupList(db: Db, user: User): Promise<GroupLine[]> {
	const { sql, bind } = scope(user).groups;
	return db.all(
		`SELECT school_group.id, school_group.name, kind, coalesce(school.name, '') AS school,
			(SELECT count(*) FROM group_member JOIN person_now ON person_now.id = person_id WHERE group_id = school_group.id) AS members,
			code, ${joinedNow} AS joined
		FROM school_group_now AS school_group LEFT JOIN school ON school.id = school_id
		WHERE ${sql} ORDER BY school_group.name, school_group.id LIMIT 1000`,
		bind
	);
}

/** A group with its members, how each came in, and what was last sent about them; null where the user may not see it. */
export async function groupView(db: Db, user: User, id: number): Promise<GroupView | null> {
	const { sql, bind } = scope(user).groups;
	const group = await db.one<
		Pick<GroupView, 'id' | 'name' | 'kind' | 'school' | 'goneAt' | 'code' | 'joined'>
	>(
		`SELECT school_group.id, school_group.name, kind, coalesce(school.name, '') AS school, gone_at AS goneAt,
			code, ${joinedNow} AS joined
		FROM school_group LEFT JOIN school ON school.id = school_id WHERE school_group.id = $id AND ${sql}`,
		{ id, ...bind }
	);
	if (!group) return null;
	const roster = await readRoster(db);
	const students = roster.studentsOfGroup(id);
	const rows = await db.all<MemberNote & { personId: number }>(
		`SELECT group_member.person_id AS personId, how, group_member.since,
			given_name || ' ' || family_name AS "by"
		FROM group_member LEFT JOIN person ON person.id = by_id WHERE group_id = $id`,
		{ id }
	);
	return {
		...group,
		reach: lineOf(roster, { key: `group-${id}`, name: group.name, students }),
		people: reachLines(roster, students),
		cameIn: Object.fromEntries(rows.map(({ personId, ...note }) => [personId, note])),
		sent: await lastSent(
			db,
			user,
			'student_id IN (SELECT person_id FROM group_member WHERE group_id = $group)',
			{ group: id }
		),
		kept: (await keptNames(db, user)).map(({ id: keptId, name }) => ({ id: keptId, name }))
	};
}
