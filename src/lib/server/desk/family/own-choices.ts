import type { DispatchKind } from '../../../core/roster/types';
import type { Db, Query } from '../../db/open';
import { rosterChanged } from '../../db/roster';
import { stopPending } from '../track/stop-pending';

/** What a link in a copy can stop: the kind of the dispatch it belongs to. Null for a person's own link, which belongs to none. */
export async function kindOfDispatch(
	db: Query,
	dispatchId: number | null
): Promise<DispatchKind | null> {
	if (dispatchId === null) return null;
	const row = await db.one<{ kind: DispatchKind }>('SELECT kind FROM dispatch WHERE id = $id', {
		id: dispatchId
	});
	return row?.kind ?? null;
}

/** Whether a person wants no messages of a kind by email. */
export const hasStopped = async (
	db: Query,
	personId: number,
	kind: DispatchKind
): Promise<boolean> =>
	(await db.one(
		`SELECT 1 FROM declined WHERE person_id = $personId AND kind = $kind AND way = 'email'`,
		{ personId, kind }
	)) !== undefined;

/** Stops messages of a kind by email for one person, or lets them come again. Asked twice it is done once. */
export async function setStopped(
	db: Db,
	personId: number,
	kind: DispatchKind,
	stopped: boolean
): Promise<void> {
	await db.write(async (tx) => {
		if ((await hasStopped(tx, personId, kind)) === stopped) return;
		await tx.run(
			stopped
				? `INSERT INTO declined (person_id, kind, way) VALUES ($personId, $kind, 'email')`
				: `DELETE FROM declined WHERE person_id = $personId AND kind = $kind AND way = 'email'`,
			{ personId, kind }
		);
		await rosterChanged(tx);
		if (stopped) {
			await stopPending(tx, { way: 'email', personId, kind }, `asked for no ${kind}s by email`);
		}
	});
}
