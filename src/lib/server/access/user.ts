import { now } from '../clock';
import { roles, type RoleName } from '../db/models/access';
import type { Query } from '../db/open';

/** Who is signed in, and what for. */
export interface User {
	readonly personId: number;
	readonly name: string;
	readonly role: RoleName;
	/** The school of an office, principal or teacher; null for the whole district. */
	readonly schoolId: number | null;
	/** "Communications", "Mathematics": stands under what they write. */
	readonly title: string;
}

/** Of several roles in force at `$now` the widest counts. */
const widest = `(SELECT id FROM role WHERE role.person_id = sign_in.person_id
		AND starts_at <= $now AND (ends_at IS NULL OR ends_at > $now)
	ORDER BY CASE role ${roles.map((name, i) => `WHEN '${name}' THEN ${i}`).join(' ')} END, id LIMIT 1)`;

/** Everyone who may sign in and fits a condition, as they are now, with the name they sign in by. */
const users = async (
	db: Query,
	condition: string,
	bind: Readonly<Record<string, string | number>>
): Promise<(User & { readonly userName: string })[]> =>
	db.all(
		`SELECT sign_in.person_id AS personId, given_name || ' ' || family_name AS name, user_name AS userName,
			role, role.school_id AS schoolId, title
		FROM sign_in JOIN person_now AS person ON person.id = sign_in.person_id JOIN role ON role.id = ${widest}
		WHERE ${condition} ORDER BY sign_in.person_id`,
		{ ...bind, now: await now(db) }
	);

/** Someone who may sign in, as they are now; null where they may not (any more). */
export async function userById(db: Query, personId: number): Promise<User | null> {
	const [found] = await users(db, 'sign_in.person_id = $personId', { personId });
	if (!found) return null;
	const { name, role, schoolId, title } = found;
	return { personId, name, role, schoolId, title };
}

/** Everyone who may sign in. */
export const everyUser = (db: Query) => users(db, '1', {});

/** Everyone whose widest role is one of these. */
export const usersAs = (db: Query, names: readonly RoleName[]): Promise<User[]> =>
	users(db, 'role IN (SELECT value FROM json_each($names))', { names: JSON.stringify(names) });

/** Whether somebody is still who they were when they asked: a role taken away meanwhile sends nothing. */
export async function isStill(db: Query, user: User): Promise<boolean> {
	const today = await userById(db, user.personId);
	return today?.role === user.role && today.schoolId === user.schoolId;
}
