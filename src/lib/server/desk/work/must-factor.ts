import { hasFactor } from '../../access/second-factor';
import type { User } from '../../access/user';
import { readDistrict } from '../../db/district';
import type { Query } from '../../db/open';

/** Whether a second factor is asked for of one of somebody’s roles, and they have none yet. Whoever comes in by the identity provider has given theirs there. */
export async function mustSetFactor(db: Query, user: User): Promise<boolean> {
	const { factorFor } = await readDistrict(db);
	if (!user.roles.some((r) => factorFor.includes(r.role))) return false;
	return !(await hasFactor(db, user.personId));
}
