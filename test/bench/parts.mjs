/**
 * What the bench measures, part by part: each says against what, and gives rows of the table. `file` is the database of the
 * large district.
 */
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { measure } from './measure.mjs';
import { memory, ms, number, share, time, times } from './found.mjs';

const schools = Array.from({ length: 40 }, (_, i) => i + 1);
const to = (ours, bare) => `${ms(ours)} to ${ms(bare)}`;

function planning(file) {
	const whole = schools.join(',');
	const rounds = 9;
	const sql = measure('plan.ts', file, 'sql', whole, rounds);
	const plan = measure('plan.ts', file, 'plan', whole, rounds);
	const cold = measure('plan.ts', file, 'cold', whole, 1);
	const oneSql = measure('plan.ts', file, 'sql', 2, 25);
	const one = measure('plan.ts', file, 'plan', 2, 25);
	// Each fourth school: ten of forty, with a quarter of the students to within a few in a hundred.
	const quarters = [0, 1, 2, 3].map((k) =>
		measure('plan.ts', file, 'plan', schools.filter((id) => id % 4 === k).join(','), rounds)
	);
	const quarter = quarters.reduce((sum, q) => sum + q.ms, 0) / 4;
	return [
		times('whole district planned', plan.ms / sql.ms, { most: 1.5, detail: to(plan.ms, sql.ms) }),
		times('… with reading the roster first', cold.ms / sql.ms, {
			most: 1.5,
			detail: `${ms(cold.ms)}; once after a start or an import`
		}),
		times('one school planned', one.ms / oneSql.ms, { detail: to(one.ms, oneSql.ms) }),
		times('four times the students', plan.ms / quarter, { most: 4.4 }),
		times('peak memory', plan.peakMegabytes / sql.peakMegabytes, {
			detail: `${plan.peakMegabytes.toFixed(0)} MB to ${sql.peakMegabytes.toFixed(0)} MB`
		})
	];
}

const tally = (size, wanted) => () => {
	const t = measure('picks.ts', size);
	return [
		time(`95 of 100 of ${t.picks} picks`, t.p95, {
			most: wanted.pick,
			detail: `half ${ms(t.p50)}`
		}),
		time(`95 of 100 of ${t.wholePicks} picks over every school`, t.wholeP95, {
			most: wanted.whole,
			detail: `half ${ms(t.wholeP50)}; ${number(t.people)} people`
		})
	];
};

function copies() {
	const ours = measure('copies.ts', 'ours');
	const replaced = measure('copies.ts', 'replace');
	return [
		times(`${number(ours.copies)} emails in five languages`, ours.ms / replaced.ms, {
			most: 3,
			detail: `${to(ours.ms, replaced.ms)}, ${ours.megabytes.toFixed(0)} MB`
		})
	];
}

function keys() {
	const t = measure('keys.ts');
	return [
		time(`95 of 100 of ${t.keys} keys`, t.p95, {
			most: 16.7,
			detail: `half ${ms(t.p50)}, the slowest ${ms(t.most)}`
		})
	];
}

function load(file) {
	const ours = measure('load.ts', file, 'ours');
	const read = measure('load.ts', file, 'read');
	return [
		times(`${number(ours.rows)} deliveries counted, with what to move`, ours.cold / read.ms, {
			detail: to(ours.cold, read.ms)
		}),
		times('again, with what was counted kept', ours.warm / read.ms, { detail: ms(ours.warm) })
	];
}

function rounds() {
	const ours = measure('rounds.ts', 'ours');
	const bare = measure('rounds.ts', 'bare');
	return [
		times(`${number(ours.dates)} dates, moved off closures, in their zone`, ours.ms / bare.ms, {
			detail: to(ours.ms, bare.ms)
		})
	];
}

const sending = (way, wanted) => (file) => {
	const sent = measure('send.ts', file, way, 'ours', 20_000);
	const bare = measure('send.ts', file, way, 'bare', 20_000);
	const rate = (m) => (1000 * m.copies) / m.ms;
	return [
		share(`${number(sent.copies)} ${way}s, of its rate`, rate(sent) / rate(bare), {
			least: wanted,
			detail: `${rate(sent).toFixed(0)} to ${rate(bare).toFixed(0)} a second`
		})
	];
};

/** What a long day asks of the courier's memory: the first fifth is left out, in which it grows warm. */
function steady(file) {
	const { copies, fifths } = measure('send.ts', file, 'text', 'ours', 200_000);
	const [, second, third, fourth, fifth] = fifths;
	return [
		times(
			`${number(copies)} texts, peak memory of the last two fifths to the two before`,
			(fourth + fifth) / (second + third),
			{ most: 1.05, detail: `${fifths.map((m) => m.toFixed(0)).join(', ')} MB` }
		)
	];
}

const takingIn = (what, script, wanted) => () => {
	const [taken, inserted] = [measure(script, 'ours'), measure(script, 'bare')];
	return [
		share(`${what}, of its rate`, inserted.ms / taken.ms, {
			least: wanted,
			detail: to(taken.ms, inserted.ms)
		})
	];
};

function replies() {
	return [
		['400 wait in both', 400, 400],
		['one in ten waits', 50, 5_000]
	].map(([what, few, many]) => {
		const [five, fifty] = [measure('replies.ts', 500, few), measure('replies.ts', 50_000, many)];
		return times(`of 50,000 conversations, ${what}`, fifty.ms / five.ms, {
			most: 1.3,
			detail: to(fifty.ms, five.ms)
		});
	});
}

function boards(file) {
	const b = measure('boards.ts', file);
	return [
		times('the board of everybody', b.districtMs / b.sectionMs, {
			most: 1.3,
			detail: `${to(b.districtMs, b.sectionMs)}; ${number(b.students)} students`
		}),
		time('all boards of a family', b.familyMs),
		share('a feed asked again (304), of its page', b.sameMs / b.districtMs, {
			most: 0.1,
			detail: `${ms(b.sameMs)}; anew ${ms(b.feedMs)}`
		})
	];
}

function invitation(file) {
	const i = measure('invitation.ts', file);
	return [
		times(
			`one more answer after ${number(i.answered)} of ${number(i.parties)}`,
			i.lastMs / i.firstMs,
			{
				detail: `${to(i.lastMs, i.firstMs)}; ${number(i.seated)} have places`
			}
		),
		time('Reach after it', i.reachMs, { detail: `a page of its list ${ms(i.listMs)}` })
	];
}

function roster(file) {
	const tables = join(mkdtempSync(join(tmpdir(), 'idle-courier-bench-')), 'tables');
	measure('roster.ts', 'make', file, tables);
	const csv = measure('roster.ts', 'csv', tables);
	const taken = measure('roster.ts', 'take', tables);
	const rows = measure('roster.ts', 'bare', taken.file);
	const beside = measure('roster.ts', 'beside', file);
	return [
		times(`${number(csv.lines)} lines looked at`, taken.lookMs / csv.ms, {
			most: 3,
			detail: to(taken.lookMs, csv.ms)
		}),
		times(`${number(rows.rows)} rows taken in`, taken.takeMs / rows.ms, {
			most: 2,
			detail: to(taken.takeMs, rows.ms)
		}),
		memory('at most', taken.megabytes, { most: 1000 }),
		times('a tally of a school meanwhile, to alone', beside.besideMs / beside.aloneMs, {
			most: 2,
			detail: `${to(beside.besideMs, beside.aloneMs)}; the slowest, with the roster read anew, ${ms(beside.worstMs)}`
		})
	];
}

function writing(file) {
	const written = measure('reach.ts', file, 'write');
	const bare = measure('reach.ts', file, 'bare');
	return [
		share(
			`${number(written.copies)} deliveries, ${number(bare.rows)} rows, of its rate`,
			bare.ms / written.ms,
			{
				least: 0.5,
				detail: to(written.ms, bare.ms)
			}
		),
		time('… in all', written.ms, { most: 8_000 })
	];
}

function reach(file) {
	const { small, large } = measure('reach.ts', file, 'reach');
	const more = (large.copies / small.copies).toFixed(1);
	return [
		['first figures, nothing kept', 'first', 1_000],
		['a filtered page after it', 'filtered', 200],
		['again after one more event', 'again', 50]
	].map(([what, key, most]) =>
		time(what, large[key], {
			most,
			detail: `${number(large.copies)} copies; ${(large[key] / small[key]).toFixed(2)} times for ${more} times the copies`
		})
	);
}

function many() {
	const m = measure('many.ts');
	const each = Object.entries(m.each).map(([what, some]) => `${what} ${ms(some)}`);
	return [
		time(`95 of 100 of ${number(m.requests)} requests of ${m.people} people`, m.p95, {
			most: 500,
			detail: `half ${ms(m.p50)}; ${number(m.refused)} refused; ${each.join(', ')}`
		}),
		share('what the courier hands over meanwhile, of its rate alone', m.beside / m.alone, {
			least: 0.8,
			detail: `${m.beside.toFixed(0)} to ${m.alone.toFixed(0)} a second`
		}),
		time('the write lock held, at most', m.locked, {
			most: 50,
			detail: `${number(m.holds)} times over 50 ms${m.holds > 0 ? `, by ${m.by.join(', ')}` : ''}`
		})
	];
}

function pages() {
	const { found, clicked } = measure('pages.ts');
	return [
		...Object.entries(found).map(([name, n]) => time(`${name}, asked for`, n, { most: 400 })),
		...Object.entries(clicked).map(([name, n]) => time(`${name}, clicked`, n, { most: 400 }))
	];
}

function viewers(file) {
	const [one, many] = [measure('viewers.ts', file, 1), measure('viewers.ts', file, 200)];
	return [
		times('the processor that 200 who look at it cost', many.ms / one.ms, {
			most: 3,
			detail: `${to(many.ms, one.ms)} in ten seconds; ${number(one.copies)} copies, 600 of them opened meanwhile`
		})
	];
}

function growth() {
	const sizes = [0.5, 1, 2, 4].map((n) => measure('growth.ts', n));
	const [small, large] = [sizes[0], sizes.at(-1)];
	const more = large.students / small.students;
	return [
		...Object.keys(small.found).map((what) =>
			times(what, large.found[what] / small.found[what], {
				most: Number((more * 1.1).toFixed(1)),
				detail: sizes.map((s) => ms(s.found[what])).join(', ')
			})
		),
		times('memory of the web server', large.megabytes / small.megabytes, {
			most: Number((more * 1.1).toFixed(1)),
			detail: sizes.map((s) => `${s.megabytes.toFixed(0)} MB`).join(', ')
		}),
		times('copies of a dispatch to everybody', large.copies / small.copies, {
			detail: sizes.map((s) => `${number(s.copies)} for ${number(s.students)} students`).join(', ')
		})
	];
}

function forecasts(file) {
	const f = measure('forecast.ts', file);
	return [
		times(`the forecast of ${number(f.sheetCopies)} copies, to its planning`, f.saidMs / f.planMs, {
			most: 2,
			detail: to(f.saidMs, f.planMs)
		}),
		time('95 of 100 tallies after a pick, with their line', f.withLine, {
			most: 700,
			detail: `without ${ms(f.plain)}`
		}),
		time('What to expect of it', f.compareMs),
		time('kept as it leaves', f.keepMs),
		time(`learned from ${number(f.copies)} copies`, f.learnMs, {
			detail: `${number(f.people)} people; by night, in parts`
		})
	];
}

function term(file) {
	const ours = measure('term.ts', file, 'ours');
	const { read } = measure('term.ts', file, 'read');
	const of = `${number(ours.copies)} copies`;
	return [
		share('families that nothing reached in a month, counted', ours.silent / read, {
			detail: `${to(ours.silent, read)}; ${of}`
		}),
		share('their page after it', ours.page / read, { detail: ms(ours.page) }),
		share('the report of the term', ours.report / read, { detail: ms(ours.report) })
	];
}

/** By their names, in the order in which they run. */
export const parts = {
	planning: {
		about:
			'Planning. Baseline: one hand-written SQL query that reads the same people and addresses through the bare sqlite3 driver.',
		run: planning
	},
	'tally-demo': {
		about: 'The tally in the browser, demo district: from the click to the changed page.',
		run: tally('demo', { pick: 60, whole: 100 })
	},
	'tally-district': {
		about: 'The tally in the browser, large district: from the click to the changed page.',
		run: tally('district', { pick: 250, whole: 350 })
	},
	copies: {
		about:
			'Writing copies out. Baseline: plain string replacement of the same fields in the finished letters of each language.',
		run: copies
	},
	keys: {
		about: 'Counting a text of 160 characters in the browser: what each key costs in script.',
		run: keys
	},
	load: {
		about:
			'Family load of four weeks with 500 dispatches over the large district. Baseline: the bare sqlite3 driver reads the same deliveries.',
		run: load
	},
	rounds: {
		about: '10,000 rounds over a year. Baseline: the recurrence package alone, in no zone.',
		run: rounds
	},
	emails: {
		about:
			'Sending 20,000 emails through the whole courier. Baseline: a pooled nodemailer loop with one finished letter of the same make, to the same server.',
		run: sending('email', 0.95)
	},
	texts: {
		about:
			'Sending 20,000 texts through the whole courier. Baseline: an SMPP loop with as many under way, to the same server.',
		run: sending('text', 0.6)
	},
	steady: {
		about: 'What a long day asks of the memory of the courier, its own process.',
		run: steady
	},
	receipts: {
		about:
			'Taking in receipts. Baseline: prepared inserts of the same evidence by the bare sqlite3 driver, in groups of the same size.',
		run: takingIn('50,000 receipts', 'receipts.ts', 0.6)
	},
	answers: {
		about:
			'Taking in answers by mail. Baseline: prepared inserts of the same rows by the bare sqlite3 driver, in groups of the same size.',
		run: takingIn('20,000 answers', 'answers.ts', 0.3)
	},
	replies: { about: 'Opening Replies. Baseline: with 500 conversations.', run: replies },
	boards: {
		about: 'Boards, twelve announcements on each. Baseline: the board of one section.',
		run: boards
	},
	invitation: {
		about:
			'An invitation to the whole large district, with places for most. Baseline: its first answers.',
		run: invitation
	},
	roster: {
		about:
			'The roster of the large district as OneRoster 1.2 tables, into an empty district. Baselines: csv-parse alone reads the tables; prepared inserts put down the same rows.',
		run: roster
	},
	writing: {
		about:
			'Planning and writing down the deliveries of the whole district. Baseline: the bare sqlite3 driver inserts the same rows of the same tables by prepared statements.',
		run: writing
	},
	reach: {
		about: 'The page of Reach of that dispatch, and of one that is a tenth of it.',
		run: reach
	},
	many: {
		about:
			'A hundred people at work on the large district (one thing in ten seconds each) while a dispatch to half of its schools leaves and receipts come in; everything runs on this machine, the providers and the people too, which stand behind. Baseline: the courier alone.',
		run: many
	},
	viewers: {
		about:
			'A dispatch to everybody in the large district that is being read, looked at by 200. Baseline: one looks at it.',
		run: viewers
	},
	pages: {
		about:
			'The first figures of each place in the browser, demo district with two weeks of past: from asking to the first painted content, and from a click to its heading.',
		run: pages
	},
	growth: {
		about:
			'Each stage and each page, at 12,500, 25,000, 50,000 and 100,000 students. Baseline: the smallest; what grows no faster than the students do holds.',
		run: growth
	},
	forecasts: {
		about: 'What to expect, learned from twenty dispatches to everybody in the large district.',
		run: forecasts
	},
	term: {
		about:
			'What came of a term of forty dispatches to everybody in the large district. Baseline: the bare sqlite3 driver reads the same copies.',
		run: term
	}
};
