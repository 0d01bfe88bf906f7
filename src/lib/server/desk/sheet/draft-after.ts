import { randomUUID } from 'node:crypto';
import { audienceWords } from '../../../core/audience/sentence';
import { usualTiming } from '../../../core/time/timing';
import type { User } from '../../access/user';
import { now } from '../../clock';
import type { DispatchRow } from '../../db/models/dispatch';
import { nameBook } from '../../db/names';
import type { Db } from '../../db/open';
import { usualBoard, usualCopies, type Sheet } from './sheet';
import { putDispatch, sheetColumns, sheetOfRow, sheetValues, type SheetRow } from './sheet-row';

/** What of a draft is said by what it is for: whom it goes to, and whatever else is not as usual. */
type AfterDispatch = Pick<Sheet, 'audience'> & Partial<Sheet>;

/**
 * Makes a draft of a user's own that goes on from a dispatch they may see, with its words: it leaves now, all ways at once, puts
 * nothing into the calendar, and asks about the same invitation where there is one. Another's files are theirs to send. Returns
 * its id.
 */
export async function draftAfter(
	db: Db,
	user: User,
	dispatchId: number,
	change: (before: Sheet) => AfterDispatch
): Promise<number> {
	const row = (await db.one<SheetRow & Pick<DispatchRow, 'senderId'>>(
		`SELECT ${sheetColumns}, sender_id AS senderId FROM dispatch WHERE id = $id`,
		{ id: dispatchId }
	))!;
	const before = sheetOfRow(row);
	const { letter, invitation } = before;
	const sheet: Sheet = {
		...before,
		sheetKey: randomUUID(),
		turns: [],
		copies: { ...usualCopies, perStudent: before.copies.perStudent },
		board: usualBoard,
		event: null,
		invitation: invitation?.kind === 'asks' ? { kind: 'about', dispatchId } : invitation,
		timing: { ...usualTiming, clock: before.timing.clock },
		letter: row.senderId === user.personId ? letter : { ...letter, files: [], note: null },
		...change(before)
	};
	const words = audienceWords(sheet.audience, await nameBook(db, sheet.audience));
	return db.write(async (tx) =>
		putDispatch(tx, null, {
			...sheetValues(sheet, words),
			...{ sheetKey: sheet.sheetKey, senderId: user.personId, state: 'draft' },
			changedAt: Math.round(await now(tx))
		})
	);
}
