import { writeDown } from '../../access/log';
import { audienceWords } from '../../../core/audience/sentence';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { nameBook } from '../../db/names';
import type { Db, Query } from '../../db/open';
import { permitted } from '../audience/permitted';
import { putDispatch, sheetColumns, sheetOfRow, sheetValues, type SheetRow } from './sheet-row';
import type { Sheet } from './sheet';
import type { SavedDraft, DraftSaved } from './types';
import type { DispatchRow } from '../../db/models/dispatch';

type Row = SheetRow & { readonly savedAt: number };

const toDraft = (row: Row): SavedDraft => ({ ...sheetOfRow(row), savedAt: row.savedAt });

/** A user's own draft, or null. */
export async function readDraft(db: Query, user: User, id: number): Promise<SavedDraft | null> {
	const row = await db.one<Row>(
		`SELECT ${sheetColumns}, changed_at AS savedAt FROM dispatch
		WHERE id = $id AND state = 'draft' AND sender_id = $user`,
		{ id, user: user.personId }
	);
	return row ? toDraft(row) : null;
}

/**
 * Saves a sheet as a draft. `base` is the version it was made from, null for one that was never
 * saved: where another window has saved since, nothing is overwritten and the other version comes
 * back. A sheet that has been sent meanwhile stays sent.
 */
export async function saveDraft(
	db: Db,
	user: User,
	sheet: Sheet,
	base: number | null
): Promise<DraftSaved> {
	const { spoken, gone } = await permitted(db, user, sheet.audience, sheet.chases);
	// What it follows up may be nobody's, or not theirs; the sheet itself is kept.
	const chases = gone.some((g) => g.kind === 'chased') ? null : sheet.chases;
	const words = audienceWords(spoken, await nameBook(db, spoken));
	return db.write(async (tx): Promise<DraftSaved> => {
		const before = await tx.one<
			Pick<DispatchRow, 'id' | 'state'> & {
				sender: DispatchRow['senderId'];
				savedAt: DispatchRow['changedAt'];
			}
		>(
			`SELECT id, state, sender_id AS sender, changed_at AS savedAt FROM dispatch
			WHERE sheet_key = $key`,
			{ key: sheet.sheetKey }
		);
		if (before && before.sender !== user.personId) return { ok: false, reason: 'not-yours' };
		if (before && before.state !== 'draft') {
			return { ok: false, reason: 'sent', dispatchId: before.id };
		}
		if (before && before.savedAt !== base) {
			const other = await readDraft(tx, user, before.id);
			return { ok: false, reason: 'changed-elsewhere', other: other! };
		}
		// The mark of a version must differ from the one before it, also within one millisecond.
		const savedAt = Math.max(Math.round(await now(tx)), (before?.savedAt ?? 0) + 1);
		const values = { ...sheetValues({ ...sheet, chases }, words), changedAt: savedAt };
		const dispatchId = await putDispatch(
			tx,
			before?.id ?? null,
			before
				? values
				: { ...values, sheetKey: sheet.sheetKey, senderId: user.personId, state: 'draft' }
		);
		return { ok: true, dispatchId, savedAt };
	});
}

/** Throws a draft of one's own away. What is scheduled or sent is no draft and stays: it is called back first. */
export async function throwAwayDraft(
	db: Db,
	user: User,
	which: { readonly id: number } | { readonly sheetKey: string }
): Promise<boolean> {
	return db.write(async (tx) => {
		const mine = await tx.one<Pick<DispatchRow, 'id'>>(
			`SELECT id FROM dispatch WHERE ${'id' in which ? 'id = $id' : 'sheet_key = $sheetKey'}
				AND state = 'draft' AND sender_id = $user`,
			{ ...('id' in which ? { id: which.id } : { sheetKey: which.sheetKey }), user: user.personId }
		);
		// A date of a round that somebody took out is not made again when the calendar changes.
		if (mine) {
			await tx.run(
				`UPDATE round SET left_out = json_insert(left_out, '$[#]', (SELECT round_key FROM dispatch WHERE id = $id))
				WHERE left_out IS NOT NULL AND id = (SELECT round_id FROM dispatch WHERE id = $id)`,
				{ id: mine.id }
			);
		}
		if (mine) {
			await tx.run('DELETE FROM dispatch WHERE id = $id', { id: mine.id });
			await writeDown(tx, { act: 'draft-deleted', by: user, to: ['dispatch', mine.id] });
		}
		return mine !== undefined;
	});
}
