import { now } from '../clock';
import type { RoleName } from '../db/models/access';
import type { Query } from '../db/open';
import { has, userWith, whereOf, type Right, type RoleHeld, type User } from './rights';

export type { User } from './rights';

/** What each role has been given, as JSON: {"teacher": ["see", …]}. */
async function given(db: Query): Promise<Partial<Record<RoleName, Right[]>>> {
	const rows = await db.all<{ role: RoleName; rights: string }>(
		'SELECT role, json_group_array(can) AS rights FROM role_right GROUP BY role'
	);
	return Object.fromEntries(rows.map((r) => [r.role, JSON.parse(r.rights) as Right[]]));
}

/** Everyone who may sign in and fits a condition, as they are now, with the name they sign in by. */
async function users(
	db: Query,
	condition: string,
	bind: Readonly<Record<string, string | number>>
): Promise<(User & { readonly userName: string })[]> {
	const rows = await db.all<
		Pick<User, 'personId' | 'name' | 'title'> & { userName: string; roles: string }
	>(
		`SELECT sign_in.person_id AS personId, given_name || ' ' || family_name AS name, user_name AS userName, title,
			json_group_array(json_object('role', role, 'schoolId', role.school_id, 'sectionId', role.section_id)) AS roles
		FROM sign_in JOIN person_now AS person ON person.id = sign_in.person_id
		JOIN role ON role.person_id = sign_in.person_id AND starts_at <= $now AND (ends_at IS NULL OR ends_at > $now)
		WHERE closed_at IS NULL AND ${condition} GROUP BY sign_in.person_id ORDER BY sign_in.person_id`,
		{ ...bind, now: await now(db) }
	);
	if (rows.length === 0) return [];
	const rights = await given(db);
	return rows.map(({ personId, name, title, userName, roles }) => ({
		...userWith({ personId, name, title }, JSON.parse(roles) as RoleHeld[], rights),
		userName
	}));
}

/** Those of some who may sign in, as they are now, by person. */
export async function usersById(
	db: Query,
	personIds: readonly number[]
): Promise<ReadonlyMap<number, User>> {
	const found = await users(db, 'sign_in.person_id IN (SELECT value FROM json_each($ids))', {
		ids: JSON.stringify(personIds)
	});
	return new Map(
		found.map(({ personId, name, title, roles, rights }) => [
			personId,
			{ personId, name, title, roles, rights }
		])
	);
}

/** Someone who may sign in, as they are now; null where they may not (any more). */
export const userById = async (db: Query, personId: number): Promise<User | null> =>
	(await usersById(db, [personId])).get(personId) ?? null;

/** Everyone who may sign in. */
export const everyUser = (db: Query) => users(db, '1', {});

/** Everyone who has a right somewhere, or (`whole`) in the whole district. */
export const usersWho = async (db: Query, right: Right, { whole = false } = {}): Promise<User[]> =>
	(await everyUser(db)).filter((user) => (whole ? whereOf(user, right).whole : has(user, right)));

/** Whether somebody may still do what they might when they asked: a right taken away meanwhile sends nothing. */
export async function isStill(db: Query, user: User): Promise<boolean> {
	const today = await userById(db, user.personId);
	return today !== null && JSON.stringify(today.rights) === JSON.stringify(user.rights);
}
