/**
 * `npm run bench`: what is measured is printed as ratios against a named bare baseline, measured in
 * the same run on the same machine. Nothing fails here for being slow; what is wanted stands beside.
 */
import { spawnSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build, install, root } from '../../demo/prepare.mjs';

install();
build();

const say = (line = '') => process.stdout.write(`${line}\n`);
/** Runs a TypeScript file and gives what it prints as JSON. */
function measure(file, ...args) {
	const { status, stdout, stderr } = spawnSync(
		process.execPath,
		[
			// As the application runs it.
			...(file === 'roster.ts' ? ['--max-semi-space-size=32', '--max-old-space-size=1000'] : []),
			...['--import', 'tsx', `test/bench/${file}`, ...args.map(String)]
		],
		{ cwd: root, encoding: 'utf8', maxBuffer: 1 << 26 }
	);
	if (status !== 0) {
		process.stderr.write(stderr);
		process.exit(1);
	}
	return JSON.parse(stdout.trim().split('\n').at(-1));
}
const times = (n) => `${n.toFixed(2)} times`;
const ms = (n) => `${n.toFixed(0)} ms`;

say('Making the large district: 40 schools, 25,000 students.');
const { file } = measure('district-file.ts');
const ids = Array.from({ length: 40 }, (_, i) => i + 1);
const whole = ids.join(',');
// Each fourth school: ten of forty, with a quarter of the students to within a few in a hundred.
const rounds = 9;
const sql = measure('plan.ts', file, 'sql', whole, rounds);
const plan = measure('plan.ts', file, 'plan', whole, rounds);
const cold = measure('plan.ts', file, 'cold', whole, 1);
const oneSql = measure('plan.ts', file, 'sql', 2, 25);
const one = measure('plan.ts', file, 'plan', 2, 25);
const quarters = [0, 1, 2, 3].map((k) =>
	measure('plan.ts', file, 'plan', ids.filter((id) => id % 4 === k).join(','), rounds)
);
const quarter = quarters.reduce((sum, q) => sum + q.ms, 0) / 4;

say();
say(
	'Planning. Baseline: one hand-written SQL query that reads the same people and addresses through'
);
say('the bare sqlite3 driver (median of ' + rounds + ').');
say(
	`  whole district   ${times(plan.ms / sql.ms)} the query (${ms(plan.ms)} to ${ms(sql.ms)}); wanted at most 1.5`
);
say(
	`    with reading the roster first   ${times(cold.ms / sql.ms)} the query (${ms(cold.ms)}); once after a start or an import`
);
say(
	`  one school       ${times(one.ms / oneSql.ms)} the query (${ms(one.ms)} to ${ms(oneSql.ms)})`
);
say(
	`  growth           ${times(plan.ms / quarter)} for four times the data, from a quarter (mean of the four) to the whole; wanted at most 4.4`
);
say(
	`  peak memory      ${times(plan.peakMegabytes / sql.peakMegabytes)} the query's process (${plan.peakMegabytes.toFixed(0)} MB to ${sql.peakMegabytes.toFixed(0)} MB)`
);

for (const [size, wanted] of [
	['demo', 100],
	['district', 500]
]) {
	say();
	say(
		`The tally in the browser, ${size === 'demo' ? 'demo district' : 'large district'}: from the click to the changed page.`
	);
	const t = measure('picks.ts', size);
	say(
		`  ${t.picks} picks   half within ${ms(t.p50)}, 95 of 100 within ${ms(t.p95)}; wanted ${wanted} ms`
	);
	say(
		`  ${t.wholePicks} picks over every school   half within ${ms(t.wholeP50)}, 95 of 100 within ${ms(t.wholeP95)} (${t.people} people)`
	);
}

say();
say('Writing copies out. Baseline: plain string replacement of the same fields in the finished');
say('letters of each language.');
const ours = measure('copies.ts', 'ours');
const replaced = measure('copies.ts', 'replace');
say(
	`  ${ours.copies} emails, HTML and plain text in five languages   ${times(ours.ms / replaced.ms)} the replacement (${ms(ours.ms)} to ${ms(replaced.ms)}, ${ours.megabytes.toFixed(0)} MB)`
);
say();
say('Counting a text of 160 characters in the browser: what each key costs in script.');
const keys = measure('keys.ts');
say(
	`  ${keys.keys} keys   half within ${keys.p50.toFixed(1)} ms, 95 of 100 within ${keys.p95.toFixed(1)} ms, the slowest ${keys.most.toFixed(1)} ms; wanted less than a frame, 16.7 ms`
);

say();
say('Family load of four weeks with 500 dispatches over the large district. Baseline: the bare');
say('sqlite3 driver reads the same deliveries.');
const load = measure('load.ts', file, 'ours');
const read = measure('load.ts', file, 'read');
say(
	`  ${load.rows} deliveries   ${times(load.cold / read.ms)} the reading (${ms(load.cold)} to ${ms(read.ms)}), with what to move found; again with what was counted kept ${times(load.warm / read.ms)} (${ms(load.warm)})`
);
say();
say('10,000 rounds over a year. Baseline: the recurrence package alone, in no zone.');
const roundsOurs = measure('rounds.ts', 'ours');
const roundsBare = measure('rounds.ts', 'bare');
say(
	`  ${roundsOurs.dates} dates, moved off closures and placed in the zone   ${times(roundsOurs.ms / roundsBare.ms)} the package (${ms(roundsOurs.ms)} to ${ms(roundsBare.ms)})`
);

for (const [way, baseline, wanted] of [
	['email', 'a pooled nodemailer loop with one finished letter of the same make', 0.8],
	['text', 'an SMPP loop with as many under way', 0.6]
]) {
	say();
	say(
		`Sending 20,000 ${way}s through the whole courier. Baseline: ${baseline}, to the same server.`
	);
	const sent = measure('send.ts', file, way, 'ours');
	const bare = measure('send.ts', file, way, 'bare');
	const rate = (m) => (1000 * m.copies) / m.ms;
	say(
		`  ${sent.copies} ${way}s   ${(rate(sent) / rate(bare)).toFixed(2)} of its rate (${rate(sent).toFixed(0)} to ${rate(bare).toFixed(0)} a second); wanted at least ${wanted}`
	);
	say(
		`  memory           ${times(sent.second / sent.first)} in the second half what it was in the first, at their peaks (${sent.second.toFixed(0)} MB); wanted flat`
	);
}

for (const [what, rows, file, wanted] of [
	['50,000 receipts', 'evidence', 'receipts.ts', 0.4],
	['20,000 answers by mail', 'conversations, answers and evidence', 'answers.ts', 0.3]
]) {
	say();
	say(`Taking in ${what}. Baseline: prepared inserts of the same ${rows} by the bare sqlite3`);
	say('driver, in groups of the same size.');
	const [taken, inserted] = [measure(file, 'ours'), measure(file, 'bare')];
	say(
		`  ${what}   ${(inserted.ms / taken.ms).toFixed(2)} of its rate (${ms(taken.ms)} to ${ms(inserted.ms)}); wanted at least ${wanted}`
	);
}

say();
say('Opening Replies with 50,000 conversations, and with 500.');
for (const [what, few, many] of [
	['400 wait in both', 400, 400],
	['one in ten waits', 50, 5_000]
]) {
	const [five, fifty] = [measure('replies.ts', 500, few), measure('replies.ts', 50_000, many)];
	say(
		`  ${what.padEnd(18)} ${times(fifty.ms / five.ms)} (${ms(fifty.ms)} to ${ms(five.ms)}); wanted at most 1.3`
	);
}

say();
say('Boards, twelve announcements on each. Baseline: the board of one section.');
const boards = measure('boards.ts', file);
say(
	`  of everybody       ${times(boards.districtMs / boards.sectionMs)} the board of a section (${ms(boards.districtMs)} to ${ms(boards.sectionMs)}; ${boards.students.toLocaleString('en')} students); wanted at most 1.3`
);
say(`  of a family        ${ms(boards.familyMs)}, all its boards`);
say(
	`  asked again (304)  ${(boards.sameMs / boards.districtMs).toFixed(3)} of the page (${boards.sameMs.toFixed(2)} ms; the feed anew ${ms(boards.feedMs)}); wanted under 0.1`
);

say();
say(
	'An invitation to the whole large district, with places for most. Baseline: its first answers.'
);
const invitation = measure('invitation.ts', file);
say(
	`  one more answer    ${times(invitation.lastMs / invitation.firstMs)} the first ones (${ms(invitation.lastMs)} to ${ms(invitation.firstMs)}) after ${invitation.answered.toLocaleString('en')} of ${invitation.parties.toLocaleString('en')}; ${invitation.seated.toLocaleString('en')} have places`
);
say(`  Reach after it     ${ms(invitation.reachMs)}; a page of its list ${ms(invitation.listMs)}`);

say();
say('The roster of the large district as OneRoster 1.2 tables, into an empty district. Baselines:');
say('csv-parse alone reads the tables; prepared inserts put down the same rows.');
const tables = join(mkdtempSync(join(tmpdir(), 'idle-courier-bench-')), 'tables');
measure('roster.ts', 'make', file, tables);
const csv = measure('roster.ts', 'csv', tables);
const roster = measure('roster.ts', 'take', tables);
const rosterRows = measure('roster.ts', 'bare', roster.file);
say(
	`  looked at      ${times(roster.lookMs / csv.ms)} csv-parse alone, ${csv.lines} lines (${ms(roster.lookMs)} to ${ms(csv.ms)}); wanted at most 3`
);
say(
	`  taken in       ${times(roster.takeMs / rosterRows.ms)} the bare inserts, ${rosterRows.rows} rows (${ms(roster.takeMs)} to ${ms(rosterRows.ms)}); wanted at most 2`
);
say(`  memory         ${roster.megabytes.toFixed(0)} MB at most; wanted under 1000`);
const beside = measure('roster.ts', 'beside', file);
say(
	`  meanwhile      another user's tally of a school takes ${times(beside.besideMs / beside.aloneMs)} what it takes alone (${ms(beside.besideMs)} to ${ms(beside.aloneMs)}, half of ${beside.tallies}; the slowest, with the roster read anew, ${ms(beside.worstMs)}); wanted at most 2`
);

say();
say('Planning and writing down the deliveries of the whole district. Baseline: the bare sqlite3');
say('driver inserts the same rows of the same tables by prepared statements.');
const written = measure('reach.ts', file, 'write');
const bareRows = measure('reach.ts', file, 'bare');
say(
	`  ${written.copies} deliveries, ${bareRows.rows} rows   ${(bareRows.ms / written.ms).toFixed(2)} of its rate (${ms(written.ms)} to ${ms(bareRows.ms)}); wanted at least 0.5`
);

say();
say('The page of Reach of that dispatch, and of one that is a tenth of it.');
const { small, large } = measure('reach.ts', file, 'reach');
for (const [what, key] of [
	['first figures, nothing kept', 'first'],
	['a filtered page after it', 'filtered'],
	['again after one more event', 'again']
]) {
	say(
		`  ${what.padEnd(28)} ${ms(large[key])}; ${times(large[key] / small[key])} for ${(large.copies / small.copies).toFixed(1)} times the deliveries (${small.copies} to ${large.copies})`
	);
}
