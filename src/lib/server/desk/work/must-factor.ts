import { hasFactor } from '../../access/second-factor';
import type { User } from '../../access/user';
import { readDistrict } from '../../db/district';
import type { Query } from '../../db/open';

/** Whether a second factor is asked for of one of somebody’s roles. */
export async function factorAsked(db: Query, user: User): Promise<boolean> {
	const { factorFor } = await readDistrict(db);
	return user.roles.some((r) => factorFor.includes(r.role));
}

/** Whether a second factor is asked for of somebody, and they have none yet. */
export const mustSetFactor = async (db: Query, user: User): Promise<boolean> =>
	(await factorAsked(db, user)) && !(await hasFactor(db, user.personId));
