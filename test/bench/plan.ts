/**
 * One side of the planning bench, in a process of its own so that its memory is its own:
 * `plan.ts <database> <side> <schools> <rounds>`. Prints one line of JSON.
 *
 *   sql    one hand-written query that reads the same people and addresses, by the bare driver
 *   plan   resolve and plan, the roster in memory as it is between two picks
 *   cold   reading the roster and the first plan after it
 */
import { performance } from 'node:perf_hooks';
import sqlite3 from 'sqlite3';
import type { Audience } from '../../src/lib/core/audience/audience';
import { byWays } from '../../src/lib/core/plan/handling';
import { planManifest } from '../../src/lib/core/plan/plan-manifest';
import { openDatabase } from '../../src/lib/server/db/open';
import { readRoster } from '../../src/lib/server/db/roster';

const [file, side, schoolList, roundsText] = process.argv.slice(2) as [
	string,
	string,
	string,
	string
];
const schools = schoolList.split(',').map(Number);
const rounds = Number(roundsText);

/** Everyone with custody who is marked for correspondence, with all their addresses: what the plan of these schools rests on. */
const query = `SELECT contact.student_id, contact.relation, person.id, person.given_name,
	person.family_name, person.language, person.has_inbox, address.way, address.value,
	address.consent, address.failing
FROM person AS student
JOIN contact ON contact.student_id = student.id AND guardian AND custody AND correspondence
JOIN person ON person.id = contact.person_id
LEFT JOIN address ON address.person_id = person.id
WHERE student.kind = 'student' AND student.school_id IN (SELECT value FROM json_each(?))`;

const audience: Audience = {
	version: 2,
	lines: [
		{ verb: 'and', to: [{ kind: 'guardians' }], of: { kind: 'schools', ids: schools }, only: [] }
	],
	byHand: []
};

const times: number[] = [];
let rows = 0;
if (side === 'sql') {
	const db = new sqlite3.Database(file);
	const all = () =>
		new Promise<unknown[]>((resolve, reject) =>
			db.all(query, [JSON.stringify(schools)], (error, found) =>
				error ? reject(error) : resolve(found)
			)
		);
	for (let i = 0; i < rounds; i += 1) {
		const start = performance.now();
		rows = (await all()).length;
		times.push(performance.now() - start);
	}
} else {
	const db = await openDatabase(file);
	const start = performance.now();
	const roster = await readRoster(db);
	const plan = () => planManifest(roster, audience, byWays(['email', 'text', 'inbox']));
	if (side === 'cold') {
		rows = plan().copies.length;
		times.push(performance.now() - start);
	} else {
		plan();
		for (let i = 0; i < rounds; i += 1) {
			const from = performance.now();
			rows = plan().copies.length;
			times.push(performance.now() - from);
		}
	}
}
times.sort((a, b) => a - b);
process.stdout.write(
	JSON.stringify({
		ms: times[Math.floor(times.length / 2)],
		rows,
		peakMegabytes: process.resourceUsage().maxRSS / 1024
	})
);
process.exit(0);
