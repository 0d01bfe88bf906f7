/**
 * Taking in 20,000 answers by mail, in a process of its own: `answers.ts <ours|bare>`. Prints one line of JSON.
 *
 *   ours  letters as the return port hands them on: the copy found by its keyed address, the conversation made, the answer
 *         kept and found by its words, evidence on the copy, whoever answers told
 *   bare  prepared inserts of the same conversations, answers and evidence by the bare sqlite3 driver, into the same
 *         tables with their indexes
 *
 * Both commit a group of up to 500 at a time, for good (synchronous FULL).
 */
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import { grouped } from '../../courier/grouped';
import { returnedCome, type KeptReturned } from '../../courier/receipts';
import { addressFor } from '../../src/lib/server/access/tokens';
import { migrate } from '../../src/lib/server/db/migrate';
import { openDatabase } from '../../src/lib/server/db/open';
import { bareDriver, ownFolder, usualDistrict } from './bench-copy';

process.setSourceMapsEnabled(false);

const [side] = process.argv.slice(2) as ['ours' | 'bare'];
const answers = 20_000;
const perDispatch = 500;
const group = 500;
const key = Buffer.alloc(32, 7);
const nonceOf = (i: number) => `nonce${i}`;
const wordsOf = (i: number) =>
	`We can come at ${i % 12} o'clock, and bring the signed sheet along. Is there still a place for number ${i}?`;
const file = join(ownFolder(), 'courier.sqlite');
const db = await openDatabase(file);
await migrate(db);
await db.write(async (tx) => {
	await usualDistrict(tx);
	await tx.run(
		`WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < ${answers})
		INSERT INTO person (id, kind, given_name, family_name, language, school_id, grade_level, has_inbox)
		SELECT i, 'adult', 'Reader', 'R' || i, 'en', NULL, NULL, 0 FROM n`
	);
	await tx.run(
		`INSERT INTO address (person_id, way, value, consent) SELECT id, 'email', 'r' || id || '@harbormail.example', 'unknown' FROM person`
	);
	await tx.run(
		`WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < ${answers / perDispatch})
		INSERT INTO dispatch (id, sheet_key, subject, body, audience, audience_words, ways, hold_minutes, sender_id, state, changed_at, leaves_at)
		SELECT i, 'k' || i, 'Bench ' || i, '', '{}', '', '["email"]', 0, 1, 'sent', 0, 1 FROM n`
	);
	await tx.run(
		`INSERT INTO delivery (id, dispatch_id, person_id, way, address, state, state_at, due_at, left_at, nonce)
		SELECT person.id, 1 + (person.id - 1) / ${perDispatch}, person.id, 'email', value, 'sent', 1, 1, 1, 'nonce' || person.id
		FROM person JOIN address ON person_id = person.id`
	);
	await tx.run(
		`INSERT INTO event (delivery_id, at, kind, source, detail) SELECT id, 1, 'accepted', 'mail server', 'taken' FROM delivery`
	);
});

let ms = 0;
if (side === 'ours') {
	const take = grouped(async (items: readonly KeptReturned[]) => {
		await returnedCome(db, key, items);
		return items.map(() => undefined);
	}, group);
	const letter = (i: number): KeptReturned => ({
		address: addressFor(key, 'answer', { id: i, nonce: nonceOf(i) }, 'return.example'),
		asItCame: { words: '', machine: '' },
		mail: {
			kind: 'answer',
			answer: {
				...{ fromName: 'A Reader', fromAddress: `r${i}@harbormail.example`, subject: 'Re: Bench' },
				...{ text: wordsOf(i), whole: '', files: [], answersTo: [], quotes: true },
				...{ messageId: `<m${i}@there.example>`, messageKey: `<m${i}@there.example>` }
			}
		}
	});
	const start = performance.now();
	// A mail server has some under way at a time.
	for (let i = 0; i < answers; i += group * 2)
		await Promise.all(Array.from({ length: group * 2 }, (_, n) => take(letter(i + n + 1))));
	ms = performance.now() - start;
	const { n } = (await db.one<{ n: number }>(
		`SELECT count(*) AS n FROM answer JOIN conversation ON conversation.id = conversation_id WHERE state = 'waiting'`
	))!;
	if (n !== answers) throw new Error(`${n} of ${answers} were taken in`);
	await db.close();
} else {
	await db.close();
	const { run, prepared } = await bareDriver(file);
	const conversation = prepared(
		`INSERT INTO conversation (id, dispatch_id, person_id, handler_id, state, state_at, since, unread, way, last_at)
		VALUES (?, ?, ?, 1, 'waiting', 2, 2, 1, 'email', 2)`
	);
	const answer = prepared(
		`INSERT INTO answer (conversation_id, delivery_id, at, way, from_name, from_address, known, subject, text, whole, message_key, message_id)
		VALUES (?, ?, 2, 'email', 'A Reader', ?, 1, 'Re: Bench', ?, '', ?, ?)`
	);
	const event = prepared(
		`INSERT INTO event (delivery_id, at, kind, source, detail, strength) VALUES (?, 2, 'answered', 'answer by mail', ?, 'strong')`
	);
	const start = performance.now();
	for (let i = 0; i < answers; i += group) {
		await run('BEGIN');
		await Promise.all(
			Array.from({ length: group }, async (_, n) => {
				const id = i + n + 1;
				const own = `<m${id}@there.example>`;
				await Promise.all([
					conversation(id, 1 + Math.floor((id - 1) / perDispatch), id),
					answer(id, id, `r${id}@harbormail.example`, wordsOf(id), own, own),
					event(id, `answered by mail: “${wordsOf(id)}”`)
				]);
			})
		);
		await run('COMMIT');
	}
	ms = performance.now() - start;
}
process.stdout.write(`${JSON.stringify({ ms, answers })}\n`);
process.exit(0);
