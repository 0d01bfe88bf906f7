import { dispatchesOf, listsOf } from '../../core/audience/audience';
import { planManifest, type Manifest } from '../../core/plan/manifest';
import type { Roster } from '../../core/roster/roster';
import type { User } from '../access/sessions';
import type { Db } from '../db/open';
import { readRoster, rosterVersion } from '../db/roster';
import { permitted, type Permitted } from './permitted';
import { handlingOf, type Sending } from './sheet';

/** A sheet planned for a user, and what it was planned from. */
export interface Planned extends Permitted {
	readonly roster: Roster;
	/** Of what the user may see. */
	readonly manifest: Manifest;
}

/** Plans kept at a time: the tally, its doors and the manifest's pages are asked for one after another. */
const most = 4;
const kept = new WeakMap<Db, Map<string, Promise<Planned>>>();

/** What a plan rests on; the same mark means the same plan. */
async function markOf(db: Db, user: User, sending: Sending): Promise<string> {
	const asks = dispatchesOf(sending.audience).length + listsOf(sending.audience).length > 0;
	// Evidence has rising numbers: what an audience asks of earlier dispatches changes with it.
	const world = asks
		? await db.one<object>(
				`SELECT (SELECT max(id) FROM event) AS e, (SELECT count(gone_at) FROM kept_audience) AS g,
					(SELECT max(id) FROM kept_audience) AS k`
			)
		: null;
	return JSON.stringify([await rosterVersion(db), user, sending, world]);
}

/** Plans a sheet without writing anything down. */
export async function planSheet(db: Db, user: User, sending: Sending): Promise<Planned> {
	const { kind, audience, ways, copies } = sending;
	const mark = await markOf(db, user, { kind, audience, ways, copies });
	let plans = kept.get(db);
	if (!plans) kept.set(db, (plans = new Map()));
	const before = plans.get(mark);
	if (before) return before;
	const plan = (async (): Promise<Planned> => {
		const roster = await readRoster(db);
		const may = await permitted(db, user, audience);
		const manifest = planManifest(roster, may.shown, handlingOf(sending, user), may.facts);
		return { ...may, roster, manifest };
	})();
	plans.set(mark, plan);
	plan.catch(() => plans.delete(mark));
	for (const old of plans.keys()) {
		if (plans.size <= most) break;
		plans.delete(old);
	}
	return plan;
}
