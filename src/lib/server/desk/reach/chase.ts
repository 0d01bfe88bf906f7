import { usualTiming } from '../../../core/time/timing';
import { randomUUID } from 'node:crypto';
import {
	isPeopleLine,
	type Audience,
	type AudienceLine,
	type Condition,
	type StudentSet
} from '../../../core/audience/audience';
import { audienceWords } from '../../../core/audience/sentence';
import type { CoverRule } from '../../../core/track/coverage';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { nameBook } from '../../db/names';
import type { Db } from '../../db/open';
import { chainOf } from '../track/chase-chain';
import { usualBoard, usualCopies, type Sheet } from '../sheet/sheet';
import {
	putDispatch,
	sheetColumns,
	sheetOfRow,
	sheetValues,
	type SheetRow
} from '../sheet/sheet-row';
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
	const chain = await chainOf(db, user, dispatchId);
	const row = await db.one<SheetRow & { senderId: number }>(
		`SELECT ${sheetColumns}, sender_id AS senderId FROM dispatch
		WHERE id = $id AND state != 'draft' AND ${condition.sql}`,
		{ id: dispatchId, ...condition.bind }
	);
	const root = await db.one<SheetRow>(`SELECT ${sheetColumns} FROM dispatch WHERE id = $id`, {
		id: chain[0] ?? dispatchId
	});
	if (!row || !root) return null;
	const before = sheetOfRow(row);
	const sheet: Sheet = {
		...before,
		sheetKey: randomUUID(),
		audience: chaseAudience(sheetOfRow(root).audience, chain, before.cover),
		ways: [...ways],
		turns: [],
		chases: dispatchId,
		copies: { ...usualCopies, perStudent: before.copies.perStudent, leastTried: true },
		board: usualBoard,
		timing: { ...usualTiming, clock: before.timing.clock },
		// Another's files are theirs to send.
		letter: row.senderId === user.personId ? before.letter : { ...before.letter, files: [] }
	};
	const words = audienceWords(sheet.audience, await nameBook(db, sheet.audience));
	return db.write(async (tx) =>
		putDispatch(tx, null, {
			...sheetValues(sheet, words),
			sheetKey: sheet.sheetKey,
			senderId: user.personId,
			state: 'draft',
			changedAt: Math.round(await now(tx))
		})
	);
}
