import { repetitionWords } from '../../../core/time/rule-of';
import { offsetWords } from '../../../core/time/offset';
import { offsetOfKey, type Timing } from '../../../core/time/timing';
import type { User } from '../../access/user';
import type { Db } from '../../db/open';
import { linesOf } from '../week/dispatch-lines';
import { throwAwayDraft } from '../sheet/draft';
import { callBack } from '../send/call-back';
import type { RoundView } from './types';
import type { DispatchRow, RoundRow } from '../../db/models/dispatch';

const reminderWords = (key: string): string => {
	const offset = offsetOfKey(key);
	return offset ? offsetWords(offset) : '';
};

/** The rounds of an event, or one round, as far as the user may see their dispatches. */
export async function roundViews(
	db: Db,
	user: User,
	which: { readonly roundId: number } | { readonly eventId: number }
): Promise<RoundView[]> {
	const rounds = await db.all<Pick<RoundRow, 'id' | 'timing' | 'eventId'>>(
		`SELECT id, timing, event_id AS eventId FROM round WHERE ${'roundId' in which ? 'id = $roundId' : 'event_id = $eventId'}
		ORDER BY id`,
		'roundId' in which ? { roundId: which.roundId } : { eventId: which.eventId }
	);
	const views: RoundView[] = [];
	for (const round of rounds) {
		const rows = await db.all<
			Pick<DispatchRow, 'id'> & { key: string; own: DispatchRow['ownTime'] }
		>(
			`SELECT id, round_key AS key, own_time AS own FROM dispatch WHERE round_id = $id
			ORDER BY coalesce(leaves_at, changed_at), id`,
			{ id: round.id }
		);
		const lines = await linesOf(
			db,
			user,
			rows.map((r) => r.id)
		);
		if (rows.length > 0 && lines.length === 0) continue;
		const byId = new Map(rows.map((r) => [r.id, r]));
		const timing = JSON.parse(round.timing) as Timing;
		views.push({
			id: round.id,
			timing,
			rule:
				timing.when.kind === 'round' ? repetitionWords(timing.when.rule, timing.when.except) : '',
			eventId: round.eventId,
			dates: lines.map((line) => ({
				...line,
				words: reminderWords(byId.get(line.id)!.key),
				own: byId.get(line.id)!.own === 1
			}))
		});
	}
	return views;
}

/** Leaves a date out that has not left: it is taken back and thrown away. */
export async function leaveOut(
	db: Db,
	user: User,
	dispatchId: number
): Promise<{ ok: true } | { ok: false; why: string }> {
	// Asked before anything is called back: another's would be a draft that its sender did not ask for.
	const own = await db.one<Pick<DispatchRow, 'senderId'>>(
		'SELECT sender_id AS senderId FROM dispatch WHERE id = $id',
		{ id: dispatchId }
	);
	if (own && own.senderId !== user.personId) {
		return {
			ok: false,
			why: 'It is another sender’s. Call it back instead: then it is a draft of theirs.'
		};
	}
	const back = await callBack(db, user, dispatchId);
	if (!back.ok) return back;
	return (await throwAwayDraft(db, user, { id: dispatchId }))
		? { ok: true }
		: { ok: false, why: 'It is another sender’s: it is a draft of theirs now.' };
}

/** Leaves out every date of a round that has not left. Resolves to how many. */
export async function leaveRestOut(db: Db, user: User, roundId: number): Promise<number> {
	const rows = await db.all<Pick<DispatchRow, 'id'>>(
		`SELECT id FROM dispatch WHERE round_id = $id AND state = 'scheduled' AND sender_id = $user`,
		{ id: roundId, user: user.personId }
	);
	let n = 0;
	for (const { id } of rows) if ((await leaveOut(db, user, id)).ok) n += 1;
	return n;
}
