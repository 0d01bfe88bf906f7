import type { Audience, AudienceLine, ComingState } from '../../../core/audience/audience';
import { localOf } from '../../../core/time/local';
import type { User } from '../../access/user';
import { now } from '../../clock';
import type { Db } from '../../db/open';
import { draftAfter } from '../sheet/draft-after';
import { usualBoard } from '../sheet/sheet';
import { askedSeen } from './reach';

const dayMs = 86_400_000;

/** Whom an invitation asked, only those who stand so with it; those put in by hand as well, who stand under no condition but as people of a line. */
function standingSo(
	{ version, lines, byHand }: Audience,
	dispatchId: number,
	is: ComingState
): Audience {
	const so = { kind: 'coming', dispatchId, is } as const;
	const ids = byHand.filter((h) => h.way === 'in').map((h) => h.personId);
	const named: AudienceLine = { verb: 'and', people: { kind: 'named', ids }, only: [so] };
	return {
		version,
		lines: [
			...lines.map((l) => (l.verb === 'and' ? { ...l, only: [...l.only, so] } : l)),
			...(ids.length > 0 ? [named] : [])
		],
		byHand: byHand.filter((h) => h.way === 'out')
	};
}

/**
 * Makes a draft to those who stand in a certain way with an invitation: a reminder to those who come, a chase to those who
 * have not answered. It shows the same question, and its answers go to the same list; who it is for is worked out again as
 * it leaves. A reminder is set for a day before the first time to choose from, where that is known. Null where it is not
 * the user's to see.
 */
export async function followInvitation(
	db: Db,
	user: User,
	id: number,
	is: ComingState
): Promise<number | null> {
	const asked = await askedSeen(db, user, id);
	if (!asked) return null;
	const begins = asked.asking.slots.flatMap((s) => s.at ?? []);
	const at = Math.min(...begins) - dayMs;
	const reminds = is === 'comes' && begins.length > 0 && at > (await now(db));
	return draftAfter(db, user, asked.id, ({ audience, timing }) => ({
		audience: standingSo(audience, asked.id, is),
		chases: is === 'unsaid' ? asked.id : null,
		board: { ...usualBoard, on: false },
		timing: {
			...{ ends: null, clock: timing.clock, urgent: false },
			when: reminds ? { kind: 'at', at: localOf(at, asked.zone) } : { kind: 'now' }
		}
	}));
}
