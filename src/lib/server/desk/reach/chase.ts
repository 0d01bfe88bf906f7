import {
	audienceSchema,
	isPeopleLine,
	type Audience,
	type AudienceLine,
	type Condition,
	type StudentSet
} from '../../../core/audience/audience';
import type { CoverRule } from '../../../core/track/coverage';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import type { Db } from '../../db/open';
import { chainOf } from '../track/chase-chain';
import { dispatch } from '../../db/models/dispatch';
import { draftAfter } from '../sheet/draft-after';
import { usualCopies } from '../sheet/sheet';
import { ways } from '../../../core/roster/way';

/** A line holds ten conditions; a matter followed up more often than this is one for the telephone. */
const mostConditions = 8;

/**
 * The audience of a chase: whom the first dispatch meant, for the students that none of the matter's
 * dispatches covers, without those who have read any of them. It is a rule, worked out again at
 * sending, so that who reads meanwhile drops out.
 */
function chaseAudience(first: Audience, chain: readonly number[], rule: CoverRule): Audience {
	const notRead: Condition[] = chain
		.slice(-mostConditions)
		.map((dispatchId) => ({ kind: 'outcome', dispatchId, read: false }));
	const open: StudentSet[] = chain.map((id) => ({ kind: 'uncovered', ids: [id] }));
	// By the usual rule nobody who has read is left for a student who is not covered.
	const unread = rule === 'adult' ? [] : notRead;
	const uncovered: StudentSet = open.length === 1 ? open[0]! : { kind: 'all', of: open };
	const lines = first.lines.filter((l) => l.verb === 'and');
	const [line] = lines;
	const plain =
		line !== undefined &&
		!isPeopleLine(line) &&
		lines.length === first.lines.length &&
		first.byHand.length === 0 &&
		lines.every(
			(l) =>
				!isPeopleLine(l) &&
				l.only.length === 0 &&
				// Whose staff is meant hangs on the terms of the picks.
				l.to.every((kind) => kind.kind !== 'section-staff') &&
				JSON.stringify(l.to) === JSON.stringify(line.to)
		);
	// Where the lines only pick students, the uncovered ones say it all, and more plainly.
	if (plain) {
		return {
			version: 2,
			lines: [{ verb: 'and', to: line.to, of: uncovered, only: unread }],
			byHand: []
		};
	}
	return {
		...first,
		lines: first.lines.map((l): AudienceLine => {
			if (l.verb !== 'and') return l;
			return isPeopleLine(l)
				? { ...l, only: [...l.only, ...notRead] }
				: {
						...l,
						of: { kind: 'all', of: [l.of, ...open] },
						only: [...l.only, ...unread]
					};
		}),
		byHand: first.byHand.filter((h) => h.way === 'out')
	};
}

/**
 * Makes a draft that follows a dispatch up: to those not covered, each by the way tried least, with
 * the words of the first. Returns its id, or null where the user may not see the dispatch.
 */
export async function makeChase(db: Db, user: User, dispatchId: number): Promise<number | null> {
	const condition = scope(user).dispatches;
	const seen = await db.one(
		`SELECT 1 FROM dispatch WHERE id = $id AND state != 'draft' AND ${condition.sql}`,
		{ id: dispatchId, ...condition.bind }
	);
	const chain = await chainOf(db, user, dispatchId);
	const root = await db.rows(dispatch).one({ id: chain[0] ?? dispatchId }, ['audience']);
	if (!seen || !root) return null;
	const first = audienceSchema.parse(JSON.parse(root.audience));
	return draftAfter(db, user, dispatchId, (before) => ({
		audience: chaseAudience(first, chain, before.cover),
		ways: [...ways],
		chases: dispatchId,
		copies: { ...usualCopies, perStudent: before.copies.perStudent, leastTried: true }
	}));
}
