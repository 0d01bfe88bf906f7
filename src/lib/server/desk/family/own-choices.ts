import { declined } from '../../db/models/roster';
import { personChange } from '../../db/models/rosters';
import { now } from '../../clock';
import { dispatch } from '../../db/models/dispatch';
import type { DispatchKind } from '../../../core/roster/types';
import type { Db, Query } from '../../db/open';
import { ownChanged } from '../../db/roster';
import { stopPending } from '../track/stop-pending';

/** What a link in a copy can stop: the kind of the dispatch it belongs to. Null for a person's own link, which belongs to none. */
export async function kindOfDispatch(
	db: Query,
	dispatchId: number | null
): Promise<DispatchKind | null> {
	if (dispatchId === null) return null;
	const kind = (await db.rows(dispatch).one({ id: dispatchId }, ['kind']))?.kind;
	// Whoever has written is answered: that is of no kind that could be stopped.
	return kind === undefined || kind === 'answer' ? null : kind;
}

/** Whether a person wants no messages of a kind by email. */
export const hasStopped = async (
	db: Query,
	personId: number,
	kind: DispatchKind
): Promise<boolean> =>
	(await db.rows(declined).one({ personId, kind, way: 'email' })) !== undefined;

/** Stops messages of a kind by email for one person, or lets them come again. Asked twice it is done once. */
export async function setStopped(
	db: Db,
	personId: number,
	kind: DispatchKind,
	stopped: boolean
): Promise<void> {
	await db.write(async (tx) => {
		if ((await hasStopped(tx, personId, kind)) === stopped) return;
		const choice = { personId, kind, way: 'email' } as const;
		if (stopped) await tx.rows(declined).add(choice);
		else await tx.rows(declined).remove(choice);
		const wish = `${kind} email`;
		await tx.rows(personChange).add({
			...{ at: Math.round(await now(tx)), byId: personId, personId, field: 'wants' },
			...(stopped ? { before: wish, after: null } : { before: null, after: wish })
		});
		await ownChanged(tx, [personId]);
		if (stopped) {
			await stopPending(tx, { way: 'email', personId, kind }, `asked for no ${kind}s by email`);
		}
	});
}
