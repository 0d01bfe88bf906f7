import { byWays } from '../../core/plan/handling';
import { planManifest } from '../../core/plan/plan-manifest';
import { dispatchKinds } from '../../core/roster/types';
import { ways } from '../../core/roster/way';
import type { SchoolRow } from '../db/models/roster';
import { nameBook } from '../db/names';
import type { Db } from '../db/open';
import { readRoster } from '../db/roster';

/** Reads what everything else needs, before somebody waits for it. */
export async function warm(db: Db): Promise<void> {
	const roster = await readRoster(db);
	await nameBook(db, { version: 2, lines: [], byHand: [] });
	// Looks every guardian's addresses over once; the plans after it find them looked over.
	const everyone = await db.all<Pick<SchoolRow, 'id'>>('SELECT id FROM school');
	const of = { kind: 'schools' as const, ids: everyone.map((s) => s.id) };
	for (const kind of dispatchKinds)
		planManifest(
			roster,
			{
				version: 2,
				lines: [{ verb: 'and', to: [{ kind: 'guardians' }], of, only: [] }],
				byHand: []
			},
			byWays(ways, { kind })
		);
}
