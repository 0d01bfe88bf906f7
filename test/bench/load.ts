/**
 * Family load of four weeks with 500 dispatches over the large district, in a process of its own:
 * `load.ts <file> <ours|read>`. Prints one line of JSON.
 *
 *   ours  the load of every household and day from the rows that are sent, the days in sums, and
 *         what to move; then the same again with what was counted kept
 *   read  the bare sqlite3 driver reads the same deliveries, row by row, and does nothing with them
 */
import { userWith } from '../../src/lib/server/access/rights';
import { performance } from 'node:perf_hooks';
import sqlite3 from 'sqlite3';
import { localDays } from '../../src/lib/core/time/zone';
import { setClock } from '../../src/lib/server/clock';
import { districtSchema, writeSetting } from '../../src/lib/server/db/district';
import { openDatabase } from '../../src/lib/server/db/open';
import { readRoster } from '../../src/lib/server/db/roster';
import { dayLoads, loadWindow } from '../../src/lib/server/desk/load/load';
import { draws } from '../unit/random';
import { ownCopy } from './bench-copy';
import { suggestedMoves } from '../../src/lib/server/desk/load/load-moves';

const [file, side] = process.argv.slice(2) as [string, string];
const dispatches = 500;
const zone = 'America/New_York';
const days = localDays('2027-03-08', 28, zone);
const copy = ownCopy(file);
const db = await openDatabase(copy, { durable: false });

/** 500 dispatches on school days, each to the guardians of one to three schools; every third by text too. */
async function fill(): Promise<void> {
	const r = draws(500);
	const open = days.filter((_, i) => i % 7 < 5);
	await db.write(async (tx) => {
		await writeSetting(
			tx,
			'district',
			districtSchema.parse({
				name: 'Brackwater Isles',
				zone,
				mailFrom: 'letters@brackwater.example',
				textFrom: '12075550100',
				linkDays: 180
			})
		);
		const sender = (await tx.one<{ id: number }>('SELECT min(person_id) AS id FROM staff'))!.id;
		await tx.run(`INSERT OR IGNORE INTO term VALUES (99, 'Bench', '2027-01-01', '2027-06-30')`);
		for (let id = 1; id <= dispatches; id += 1) {
			const at = r.pick(open).from + r.int(7 * 60, 18 * 60) * 60_000;
			await tx.run(
				`INSERT INTO dispatch (id, sheet_key, subject, body, audience, audience_words, ways, hold_minutes,
					sender_id, state, changed_at, leaves_at, settled, timing)
				VALUES ($id, $key, 'Bench', '', '{}', '', '["email"]', 5, $sender, 'scheduled', 0, $at, 0,
					'{"when":{"kind":"at","at":"2027-03-08T10:00"}}')`,
				{ id, key: `bench ${id}`, sender, at }
			);
			const schools = JSON.stringify(Array.from({ length: r.int(1, 3) }, () => r.int(1, 40)));
			for (const way of id % 3 === 0 ? ['email', 'text'] : ['email']) {
				await tx.run(
					`INSERT INTO delivery (dispatch_id, person_id, way, address, state, state_at, due_at)
					SELECT DISTINCT $id, contact.person_id, $way, 'x', 'planned', 0, $at FROM contact
					JOIN person AS student ON student.id = student_id
					WHERE guardian AND custody AND student.school_id IN (SELECT value FROM json_each($schools))`,
					{ id, way, at, schools }
				);
			}
			await tx.run(
				`UPDATE dispatch SET expected = json_object('email', (SELECT count(*) FROM delivery WHERE dispatch_id = $id))
				WHERE id = $id`,
				{ id }
			);
		}
	});
	await setClock(db, days[0]!.from + 6 * 3_600_000);
}

await fill();
const rows = (await db.one<{ n: number }>('SELECT count(*) AS n FROM delivery'))!.n;
const result: Record<string, number> = { rows };
if (side === 'ours') {
	const user = userWith({ personId: 1, name: 'Bench', title: '' }, [
		{ role: 'coordinator', schoolId: null, sectionId: null }
	]);
	await readRoster(db);
	for (const round of ['cold', 'warm']) {
		const start = performance.now();
		const window = await loadWindow(db, days);
		const loads = dayLoads(window);
		const moves = await suggestedMoves(db, user, window);
		result[round] = performance.now() - start;
		result.over = loads.reduce((sum, l) => sum + l.over, 0);
		result.relief = moves[0]?.relief ?? 0;
	}
} else {
	const bare = new sqlite3.Database(copy);
	const start = performance.now();
	await new Promise<void>((resolve, reject) =>
		bare.all('SELECT dispatch_id, person_id, way, due_at FROM delivery', (error, all) => {
			if (error || all.length !== rows) reject(error ?? new Error('not all rows'));
			else resolve();
		})
	);
	result.ms = performance.now() - start;
}
await db.close();
process.stdout.write(JSON.stringify(result));
process.exit(0);
