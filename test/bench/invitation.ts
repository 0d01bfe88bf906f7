/**
 * An invitation to everybody in the large district, with places for half of them, in a process of its own:
 * `invitation.ts <file>`. Prints one line of JSON: what one more answer takes after none and after all the others, what Reach
 * says of it after one more answer, and a page of the list.
 */
import { performance } from 'node:perf_hooks';
import { landing } from '../../src/lib/server/desk/plan/tally';
import { answer } from '../../src/lib/server/desk/invitations/answer';
import { comingList } from '../../src/lib/server/desk/invitations/list';
import { invitationReach } from '../../src/lib/server/desk/invitations/reach';
import { schedule } from '../../src/lib/server/desk/send/schedule';
import { askedBy } from '../../src/lib/server/desk/sheet/asked';
import type { Party } from '../../src/lib/server/db/coming';
import { migrate } from '../../src/lib/server/db/migrate';
import { openDatabase } from '../../src/lib/server/db/open';
import { ownCopy } from './bench-copy';
import { benchSheet, openFor } from './bench-sheet';

process.setSourceMapsEnabled(false);

const [file] = process.argv.slice(2) as [string];
const db = await openDatabase(ownCopy(file));
await migrate(db);
const user = await openFor(db);
const schools = await db.all<{ id: number }>('SELECT id FROM school');
const places = 12_000;
const key = Buffer.alloc(32, 7);
const sheet = benchSheet(
	schools.map((s) => s.id),
	['inbox'],
	{
		invitation: {
			...{ kind: 'asks', until: 4_000_000_000_000, places, slots: [], most: 10, anybody: false }
		}
	}
);
const { tally } = await landing(db, user, sheet);
const sent = await schedule(db, key, user, sheet, tally.copies);
if (!sent.ok) throw new Error(sent.checks.map((c) => c.text).join(' '));
const id = sent.dispatchId!;
const asked = (await askedBy(db, id))!;

const all = (
	await db.all<{ id: number }>(
		`SELECT min(household_id) AS id FROM delivery JOIN household_member USING (person_id) WHERE dispatch_id = $id
		GROUP BY person_id ORDER BY 1`,
		{ id }
	)
).map((r) => r.id);
const parties = [...new Set(all)].map((household): Party => ({ kind: 'household', id: household }));
const yes = { comes: true, people: 1, students: 0, slot: 0 };
const say = (party: Party) =>
	db.write((tx) => answer(tx, asked, party, yes, { personId: null, how: 'page' }));

const median = (took: readonly number[]) => [...took].sort((a, b) => a - b)[took.length >> 1]!;
async function timed(work: () => Promise<unknown>): Promise<number> {
	const start = performance.now();
	await work();
	return performance.now() - start;
}
const rounds = 31;
const first: number[] = [];
for (const party of parties.slice(0, rounds)) first.push(await timed(() => say(party)));
// All but a few are put there as they would have come: what each takes by itself is measured at both ends.
await db.run(
	`INSERT INTO coming (dispatch_id, household_id, comes, people, students, slot, turn, seated, at, how)
	SELECT $id, value, 1, 1, 0, 0, $rounds + key + 1, $rounds + key < $places, 0, 'page' FROM json_each($ids)`,
	{ id, places, rounds, ids: JSON.stringify(parties.slice(rounds, -2 * rounds).map((p) => p.id)) }
);
const last: number[] = [];
const reach: number[] = [];
for (const party of parties.slice(-2 * rounds, -rounds)) {
	last.push(await timed(() => say(party)));
	reach.push(
		await timed(() => invitationReach(db, { key, publicUrl: 'https://x.example' }, user, id))
	);
}
const list = await timed(() =>
	comingList(db, user, id, { state: 'unsaid', slot: 0, search: '', page: 1 })
);
const { counts } = (await invitationReach(db, { key, publicUrl: 'https://x.example' }, user, id))!;
if (counts.people > places) throw new Error(`${counts.people} have ${places} places`);
process.stdout.write(
	JSON.stringify({
		...{ parties: parties.length, answered: counts.asked - counts.unsaid, seated: counts.people },
		...{ firstMs: median(first), lastMs: median(last), reachMs: median(reach), listMs: list }
	})
);
process.exit(0);
