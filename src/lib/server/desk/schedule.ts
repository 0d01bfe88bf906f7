import { audienceWords } from '../../core/audience/sentence';
import type { Check } from '../../core/plan/check';
import { isBlocked } from '../../core/plan/check';
import type { Manifest } from '../../core/plan/manifest';
import { tallyOf, type Tally } from '../../core/plan/tally';
import { leavesAt } from '../../core/time/hold';
import { copyToken, hashToken } from '../access/tokens';
import type { User } from '../access/sessions';
import { now } from '../clock';
import type { Db, Query } from '../db/open';
import { nameBook } from '../db/names';
import { keptIn, markUsed } from './kept';
import { planSheet } from './plan-sheet';
import { checkSheet } from './check-sheet';
import { filesOfSheet } from './files';
import { putDispatch, sheetValues } from './sheet-row';
import type { Sheet } from './sheet';

export type Scheduled =
	| { readonly ok: true; readonly dispatchId: number }
	/** Something blocks; nothing was written. */
	| { readonly ok: false; readonly checks: readonly Check[]; readonly tally: Tally };

/**
 * Sends a sheet: plans it, writes the dispatch with every copy and everyone left out, and sets the
 * hold. All or nothing. The same sheet sent twice (a second tap, a repeated request) is one
 * dispatch. `copiesSeen` is the number on the button: if the roster has changed since, nothing is
 * sent and the new number is said.
 */
export async function schedule(
	db: Db,
	key: Buffer,
	user: User,
	sheet: Sheet,
	copiesSeen: number
): Promise<Scheduled> {
	const planned = await planSheet(db, user, sheet);
	const { roster, manifest, spoken } = planned;
	const tally = tallyOf(manifest);
	const used = await keptIn(db, user, sheet.audience);
	return db.write(async (tx): Promise<Scheduled> => {
		const before = await tx.one<{ id: number; state: string; sender_id: number }>(
			'SELECT id, state, sender_id FROM dispatch WHERE sheet_key = $key',
			{ key: sheet.sheetKey }
		);
		if (before && before.sender_id === user.personId && before.state !== 'draft') {
			return { ok: true, dispatchId: before.id };
		}
		const checks = await checkSheet(tx, user, sheet, planned, tally);
		if (before && before.sender_id !== user.personId) {
			checks.unshift({
				level: 'block',
				where: 'result',
				text: 'This sheet belongs to someone else. Open Write again and start a new one.'
			});
		}
		if (!isBlocked(checks) && tally.copies !== copiesSeen) {
			checks.unshift({
				level: 'block',
				where: 'result',
				text: `The roster has changed while you wrote: ${tally.copies} copies now, not ${copiesSeen}. Look again, then send.`
			});
		}
		if (isBlocked(checks)) return { ok: false, checks, tally };

		const time = await now(tx);
		const leaves = leavesAt(time, sheet.holdMinutes);
		const schools = new Set(manifest.students.map((id) => roster.person(id)?.schoolId));
		const id = await putDispatch(tx, before?.id ?? null, {
			...sheetValues(sheet, audienceWords(spoken, await nameBook(tx, spoken))),
			school_id: schools.size === 1 ? ([...schools][0] ?? null) : null,
			state: 'scheduled',
			changed_at: time,
			scheduled_at: time,
			leaves_at: leaves,
			...(before ? {} : { sheet_key: sheet.sheetKey, sender_id: user.personId })
		});
		await tx.run(
			`INSERT OR IGNORE INTO dispatch_file (dispatch_id, file_id)
			SELECT $id, value FROM json_each($files)`,
			{ id, files: JSON.stringify(filesOfSheet(sheet)) }
		);
		await writeManifest(tx, key, id, manifest, time, leaves);
		await markUsed(tx, used, time);
		return { ok: true, dispatchId: id };
	});
}

/** Writes a manifest down: students, copies with their links, and everyone left out. */
async function writeManifest(
	tx: Query,
	key: Buffer,
	dispatchId: number,
	manifest: Manifest,
	time: number,
	leaves: number
): Promise<void> {
	const last = await tx.one<{ id: number }>('SELECT coalesce(max(id), 0) AS id FROM delivery');
	const first = last!.id + 1;
	const copies = manifest.copies.map((copy, i) => ({ ...copy, id: first + i }));
	const put = (sql: string, rows: readonly unknown[]) =>
		rows.length === 0 ? Promise.resolve() : tx.run(sql, { rows: JSON.stringify(rows) });
	await put(
		`INSERT INTO dispatch_student (dispatch_id, student_id, section_id)
		SELECT ${dispatchId}, value ->> 0, value ->> 1 FROM json_each($rows)`,
		manifest.students.map((s) => [s, manifest.sectionOf.get(s) ?? null])
	);
	await put(
		`INSERT INTO left_out (dispatch_id, person_id, student_ids, reasons)
		SELECT ${dispatchId}, value ->> 0, value ->> 1, value ->> 2 FROM json_each($rows)
		WHERE value ->> 0 IN (SELECT id FROM person)`,
		manifest.leftOut.map((l) => [
			l.personId,
			JSON.stringify(l.studentIds),
			JSON.stringify(l.reasons)
		])
	);
	await put(
		`INSERT INTO delivery (id, dispatch_id, person_id, way, address, state, state_at, due_at, link_hash)
		SELECT value ->> 0, ${dispatchId}, value ->> 1, value ->> 2, value ->> 3,
			value ->> 5, ${time}, ${leaves}, value ->> 4 FROM json_each($rows)`,
		copies.map((c) => [
			c.id,
			c.personId,
			c.way,
			c.address,
			c.way === 'inbox' ? null : hashToken(copyToken(key, c.id)),
			leaves > time ? 'held' : 'planned'
		])
	);
	await put(
		`INSERT INTO delivery_student (delivery_id, student_id)
		SELECT value ->> 0, value ->> 1 FROM json_each($rows)`,
		copies.flatMap((c) => c.studentIds.map((s) => [c.id, s]))
	);
	await put(
		`INSERT INTO delivery_also (delivery_id, person_id)
		SELECT value ->> 0, value ->> 1 FROM json_each($rows)`,
		copies.flatMap((c) => c.alsoFor.map((p) => [c.id, p]))
	);
	await put(
		`INSERT INTO event (delivery_id, at, kind, detail)
		SELECT value ->> 0, ${time}, 'scheduled', value ->> 1 FROM json_each($rows)`,
		copies.map((c) => [c.id, leaves > time ? 'held before leaving' : 'due at once'])
	);
}
