/**
 * Replies with so many conversations, in a process of its own: `replies.ts <conversations> <of which wait>`. Prints
 * one line of JSON: what it takes to put the page together, as the server does at each opening (half of the times).
 */
import { userWith } from '../../src/lib/server/access/rights';
import { join } from 'node:path';
import { performance } from 'node:perf_hooks';
import { migrate } from '../../src/lib/server/db/migrate';
import { openDatabase } from '../../src/lib/server/db/open';
import { lookSchema, repliesView } from '../../src/lib/server/desk/replies/replies';
import { ownFolder, usualDistrict } from './bench-copy';

process.setSourceMapsEnabled(false);

const [conversations, wait] = process.argv.slice(2).map(Number) as [number, number];
const perDispatch = 250;
/** The newest wait. */
const settled = conversations - wait;
const rounds = 60;
const db = await openDatabase(join(ownFolder(), 'courier.sqlite'), { durable: false });
await migrate(db);
await db.write(async (tx) => {
	await usualDistrict(tx);
	const upTo = (n: number) =>
		`WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < ${n})`;
	// Of each family as many as wrote; a person answers several dispatches.
	const people = Math.min(conversations, 20_000);
	await tx.run(
		`${upTo(people)} INSERT INTO person (id, kind, given_name, family_name, language, school_id, grade_level, has_inbox)
		SELECT i, 'adult', 'Reader', 'R' || i, 'en', NULL, NULL, 0 FROM n`
	);
	await tx.run(
		`${upTo(people)} INSERT INTO person (id, kind, given_name, family_name, language, school_id, grade_level, has_inbox)
		SELECT ${people} + i, 'student', 'Student', 'S' || i, 'en', NULL, '4', 0 FROM n`
	);
	await tx.run(
		`INSERT INTO contact (student_id, person_id, relation, guardian, correspondence, emergency)
		SELECT ${people} + id, id, 'mother', 1, 1, 1 FROM person WHERE kind = 'adult'`
	);
	await tx.run(
		`${upTo(Math.ceil(conversations / perDispatch))} INSERT INTO dispatch (id, sheet_key, subject, body, audience, audience_words, ways, hold_minutes, sender_id, state, changed_at, leaves_at)
		SELECT i, 'k' || i, 'Bench ' || i, '', '{}', '', '["email"]', 0, 1, 'sent', 0, i FROM n`
	);
	await tx.run(
		`${upTo(conversations)} INSERT INTO delivery (id, dispatch_id, person_id, way, address, state, state_at, due_at, left_at)
		SELECT i, 1 + (i - 1) / ${perDispatch}, 1 + (i - 1) % ${people}, 'email', 'x', 'answered', 1, 1, 1 FROM n`
	);
	await tx.run(
		`INSERT INTO delivery_student (delivery_id, student_id) SELECT id, ${people} + person_id FROM delivery`
	);
	await tx.run(
		`INSERT INTO conversation (id, dispatch_id, person_id, handler_id, state, state_at, since, unread, way, last_at)
		SELECT id, dispatch_id, person_id, 1, iif(id > ${settled}, 'waiting', 'settled'), id,
			iif(id > ${settled}, id, NULL), id > ${settled}, 'email', id FROM delivery`
	);
	await tx.run(
		`INSERT INTO answer (conversation_id, delivery_id, at, way, from_name, from_address, known, subject, text, whole, message_key)
		SELECT id, id, id, 'email', 'A Reader', 'x', 1, 'Re: Bench', 'We come, and bring the sheet of ' || id, '', 'm' || id FROM delivery`
	);
	await tx.run('ANALYZE');
});
const user = userWith({ personId: 1, name: 'Bench', title: '' }, [
	{ role: 'coordinator', schoolId: null, sectionId: null }
]);
const look = lookSchema.parse({});
const took: number[] = [];
for (let i = 0; i < rounds + 5; i += 1) {
	const start = performance.now();
	const view = await repliesView(db, user, look);
	if (i >= 5) took.push(performance.now() - start);
	if (view.counts.waiting < 1) throw new Error('nothing waits');
}
took.sort((a, b) => a - b);
process.stdout.write(
	`${JSON.stringify({ ms: took[Math.floor(took.length / 2)], conversations })}\n`
);
process.exit(0);
