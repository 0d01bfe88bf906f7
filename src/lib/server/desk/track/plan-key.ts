import type { Query } from '../../db/open';
import { peopleVersion } from '../../db/roster';

/** In SQL: what changes with the copies of a row of `dispatch` and with its rule. */
export const planOf = `dispatch.plan || ' ' || dispatch.cover`;

/** Says all that rests on a dispatch's plan and on the roster, and on no evidence: what it is kept under. */
export async function planKey(db: Query, id: number): Promise<string> {
	const [row, version] = await Promise.all([
		db.one<{ plan: string }>(`SELECT ${planOf} AS plan FROM dispatch WHERE id = $id`, { id }),
		peopleVersion(db)
	]);
	return `${id} ${row?.plan ?? ''} ${version}`;
}
