import { scope } from '../../access/may';
import type { User } from '../../access/user';
import type { Db } from '../../db/open';
import { studentsCsv } from '../roster/students-out';

/** The students of a group as CSV in pieces; null where the user may not see it. */
export async function membersCsv(
	{ db, key }: { readonly db: Db; readonly key: Buffer },
	user: User,
	id: number
): Promise<{ readonly name: string; readonly csv: AsyncGenerator<string> } | null> {
	const { sql, bind } = scope(user).groups;
	const group = await db.one<{ name: string }>(
		`SELECT name FROM school_group WHERE id = $id AND ${sql}`,
		{ id, ...bind }
	);
	if (!group) return null;
	const members = 'person.id IN (SELECT person_id FROM group_member WHERE group_id = $group)';
	return {
		name: group.name,
		csv: studentsCsv(db, key, { sql: members, bind: { group: id } }, null)
	};
}
