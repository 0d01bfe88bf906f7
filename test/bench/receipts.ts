/**
 * Taking in 50,000 receipts, in a process of its own: `receipts.ts <ours|bare>`. Prints one line of
 * JSON.
 *
 *   ours  text receipts as they come by SMPP: read, found by their reference, kept once as evidence,
 *         the delivery's state made anew
 *   bare  as many prepared inserts of the same evidence by the bare sqlite3 driver
 *
 * Both commit a group of up to 500 at a time, for good (synchronous FULL).
 */
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import { grouped } from '../../courier/grouped';
import { receiptsCome } from '../../courier/text-receipts';
import type { ReceiptParts } from '../../src/lib/core/track/text-receipt';
import { migrate } from '../../src/lib/server/db/migrate';
import { openDatabase } from '../../src/lib/server/db/open';
import { bareDriver, ownFolder } from './bench-copy';

// The built application has no source maps either; with them each error object costs its stack anew.
process.setSourceMapsEnabled(false);

const [side] = process.argv.slice(2) as ['ours' | 'bare'];
const receipts = 50_000;
const group = 500;
const file = join(ownFolder(), 'courier.sqlite');
const db = await openDatabase(file);
await migrate(db);
await db.write(async (tx) => {
	await tx.run(
		`INSERT INTO person (id, kind, given_name, family_name, language, school_id, grade_level, has_inbox) VALUES (1, 'adult', 'A', 'Reader', 'en', NULL, NULL, 0)`
	);
	await tx.run(
		`INSERT INTO dispatch (id, sheet_key, subject, body, audience, audience_words, ways, hold_minutes, sender_id, state, changed_at)
		VALUES (1, 'k', 'Bench', '', '{}', '', '["text"]', 0, 1, 'sent', 0)`
	);
	await tx.run(
		`WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < ${receipts})
		INSERT INTO delivery (id, dispatch_id, person_id, way, address, state, state_at, due_at, provider_ref, left_at)
		SELECT i, 1, 1, 'text', '+12075550' || i, 'sent', 1, 1, printf('%08X', i), 1 FROM n`
	);
	await tx.run(
		`INSERT INTO event (delivery_id, at, kind, source, detail) SELECT id, 1, 'accepted', 'text exchange', 'taken' FROM delivery`
	);
});
const refOf = (i: number) => (i + 1).toString(16).toUpperCase().padStart(8, '0');

let ms = 0;
if (side === 'ours') {
	const take = grouped((items: readonly ReceiptParts[]) => receiptsCome(db, items), group);
	const start = performance.now();
	// A provider has some under way at a time, as in SMPP.
	for (let i = 0; i < receipts; i += group * 4) {
		await Promise.all(
			Array.from({ length: Math.min(group * 4, receipts - i) }, (_, n) =>
				take({
					text: `id:${refOf(i + n)} sub:001 dlvrd:001 submit date:2703091200 done date:2703091201 stat:DELIVRD err:000 text:`
				})
			)
		);
	}
	ms = performance.now() - start;
	const { n } = (await db.one<{ n: number }>(
		`SELECT count(*) AS n FROM delivery WHERE state = 'delivered'`
	))!;
	if (n !== receipts) throw new Error(`${n} of ${receipts} were taken in`);
	await db.close();
} else {
	await db.close();
	const { run, prepared } = await bareDriver(file);
	const insert = prepared(
		'INSERT INTO event (delivery_id, at, kind, source, detail) VALUES (?, ?, ?, ?, ?)'
	);
	const start = performance.now();
	for (let i = 0; i < receipts; i += group) {
		await run('BEGIN');
		await Promise.all(
			Array.from({ length: group }, (_, n) =>
				insert(i + n + 1, 2, 'delivered', 'text receipt', 'the phone has it (receipt, DELIVRD)')
			)
		);
		await run('COMMIT');
	}
	ms = performance.now() - start;
}
process.stdout.write(`${JSON.stringify({ ms, receipts })}\n`);
process.exit(0);
