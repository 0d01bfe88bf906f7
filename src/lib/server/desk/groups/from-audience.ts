import { resolveAudience } from '../../../core/audience/resolve';
import type { User } from '../../access/user';
import type { Db } from '../../db/open';
import { readRoster } from '../../db/roster';
import { useKept } from '../audience/kept';
import { permitted } from '../audience/permitted';

/** The students whom a kept audience comes to today, of those the user may write to; null where there is none. */
export async function studentsOfKept(
	db: Db,
	user: User,
	keptId: number
): Promise<readonly number[] | null> {
	const audience = await useKept(db, user, keptId);
	if (!audience) return null;
	const { shown, facts } = await permitted(db, user, audience);
	return resolveAudience(await readRoster(db), shown, facts).students;
}
