import { parse } from 'csv-parse/sync';
import { expect } from 'chai';
import { audienceOf } from '../../../../../src/lib/core/audience/audience';
import { wordingOf } from '../../../../../src/lib/core/copy/words';
import type { Way } from '../../../../../src/lib/core/roster/way';
import { sumsOf } from '../../../../../src/lib/core/track/report-sums';
import type { User } from '../../../../../src/lib/server/access/rights';
import { setClock } from '../../../../../src/lib/server/clock';
import { rosterChanged } from '../../../../../src/lib/server/db/roster';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { reportCsv } from '../../../../../src/lib/server/desk/report/report-csv';
import { reportPdf } from '../../../../../src/lib/server/desk/report/report-pdf';
import {
	reportAskedSchema,
	termReport
} from '../../../../../src/lib/server/desk/report/term-report';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { sheetWith } from '../../../../../src/lib/server/desk/sheet/sheet';
import {
	silentFamilies,
	silentFilterSchema
} from '../../../../../src/lib/server/desk/silent/silent-families';
import { readByHabit } from '../../../../read-by-habit';
import { as, districtWithCoordinator, testStart } from '../../database';

const key = Buffer.alloc(32, 7);
const day = 86_400_000;
const whole = reportAskedSchema.parse({});

describe('the report of a term', () => {
	let house: Awaited<ReturnType<typeof districtWithCoordinator>>;
	let user: User;
	let schools: number[];
	before(async () => {
		house = await districtWithCoordinator(9);
		const { db } = house;
		({ user } = house);
		await db.run(`UPDATE term SET starts_on = '2027-01-25', ends_on = '2027-04-01' WHERE id = 2`);
		await db.write((tx) => rosterChanged(tx));
		const sections = await db.all<{ id: number }>(
			'SELECT id FROM section WHERE term_id = 2 ORDER BY id'
		);
		const plans: readonly (readonly Way[])[] = [
			['email'],
			['email', 'text'],
			['inbox'],
			['email', 'inbox'],
			['text']
		];
		for (const [i, ways] of plans.entries()) {
			await setClock(db, testStart - (40 - 9 * i) * day);
			const sheet = sheetWith({
				sheetKey: crypto.randomUUID(),
				audience: audienceOf(sections.slice(i, i + 9).map((s) => s.id)),
				wording: wordingOf('Boats', 'The boat is late.'),
				...{ holdMinutes: 0, ways: [...ways] }
			});
			const { tally } = await landing(db, user, sheet);
			const sent = await schedule(db, key, user, sheet, tally.copies);
			if (!sent.ok) throw new Error(sent.checks.map((c) => c.text).join(' '));
			await readByHabit(db, sent.dispatchId, 'report');
			await db.run(
				`UPDATE delivery SET parts = 1 + id % 3 WHERE way = 'text' AND dispatch_id = $id AND $i > 1`,
				{ id: sent.dispatchId, i }
			);
		}
		await setClock(db, testStart);
		const [one] = await db.all<{ id: number }>(
			`SELECT id FROM address WHERE way = 'email' AND person_id IN (SELECT person_id FROM contact) LIMIT 1`
		);
		await db.run(
			`UPDATE address SET failing = 'no such mailbox', failing_since = $at WHERE id = $id`,
			{
				...{ id: one!.id, at: testStart - 3 * day }
			}
		);
		await db.run(
			`INSERT INTO mended (address_id, at, by_id, before, after) SELECT id, $at, $by, value, value FROM address
			WHERE person_id IN (SELECT person_id FROM contact) LIMIT 4`,
			{ at: testStart - 10 * day, by: user.personId }
		);
		// What only stands on boards is no letter.
		await db.run(
			`INSERT INTO dispatch (sheet_key, subject, body, audience, audience_words, ways, hold_minutes, sender_id, state, changed_at, leaves_at, kind)
			SELECT 'board', 'Tide tables', body, audience, audience_words, '[]', 0, sender_id, 'sent', changed_at, leaves_at, 'announcement' FROM dispatch LIMIT 1`
		);
		await db.run(
			`INSERT INTO dispatch_student (dispatch_id, student_id) SELECT (SELECT max(id) FROM dispatch), id FROM person WHERE kind = 'student'`
		);
		schools = (await db.all<{ id: number }>('SELECT id FROM school ORDER BY id')).map((s) => s.id);
	});
	after(() => house.close());

	const numberOf = async (sql: string, bind: Record<string, number | string> = {}) =>
		(await house.db.one<{ n: number }>(`SELECT (SELECT ${sql}) AS n`, bind))!.n;

	it('has every figure as the rows have it, counted another way', async () => {
		const report = (await termReport(house.db, user, whole))!;
		expect(report.term).to.include({ id: 2, startsOn: '2027-01-25' });
		// Weeks from Monday, January 25 to the one of Tuesday, March 9.
		expect(report.weeks.map((w) => w.from)).to.deep.equal([
			...['2027-01-25', '2027-02-01', '2027-02-08', '2027-02-15', '2027-02-22', '2027-03-01'],
			'2027-03-08'
		]);
		for (const week of report.weeks) {
			// Of the week by the zone’s winter time, five hours behind UTC.
			const from = Date.parse(`${week.from}T05:00:00Z`);
			const bind = { from, to: from + 7 * day };
			const inWeek = `ways != '[]' AND dispatch.leaves_at >= $from AND dispatch.leaves_at < $to`;
			expect(week.dispatches).to.equal(
				await numberOf(`count(*) FROM dispatch WHERE kind != 'answer' AND ${inWeek}`, bind)
			);
			expect(week.running).to.equal(
				await numberOf(
					`count(*) FROM dispatch WHERE kind != 'answer' AND ${inWeek} AND leaves_at > ${testStart - 3 * day}`,
					bind
				)
			);
			expect(week.of).to.equal(
				await numberOf(
					`count(*) FROM dispatch_student JOIN dispatch ON dispatch.id = dispatch_id WHERE ${inWeek}`,
					bind
				)
			);
			expect(week.covered).to.equal(
				await numberOf(
					`count(*) FROM dispatch_student JOIN dispatch ON dispatch.id = dispatch_id WHERE ${inWeek} AND EXISTS (
						SELECT 1 FROM delivery JOIN delivery_student ON delivery_id = delivery.id
						WHERE delivery.dispatch_id = dispatch.id AND delivery_student.student_id = dispatch_student.student_id
							AND read_at <= leaves_at + 3 * ${day}
							AND (SELECT kind FROM person WHERE id = delivery.person_id) = 'adult')`,
					bind
				)
			);
			expect(week.messages).to.equal(
				await numberOf(
					`count(DISTINCT dispatch.id || ' ' || household_id) FROM dispatch JOIN delivery ON dispatch_id = dispatch.id
					JOIN household_member ON household_member.person_id = delivery.person_id WHERE ${inWeek}`,
					bind
				)
			);
			for (const way of ['email', 'text', 'inbox'] as const)
				expect(week.ways[way].read).to.equal(
					await numberOf(
						`count(*) FROM delivery JOIN dispatch ON dispatch.id = dispatch_id WHERE ${inWeek} AND way = '${way}' AND read_at > 0`,
						bind
					)
				);
			expect(week.parts).to.equal(
				await numberOf(
					`coalesce(sum(parts), 0) FROM delivery JOIN dispatch ON dispatch.id = dispatch_id WHERE ${inWeek}`,
					bind
				)
			);
		}
		const sums = sumsOf(report.weeks);
		expect(sums.dispatches).to.equal(5);
		expect(sums.partsUnknown).to.be.above(0);
		expect(sums.parts).to.be.above(0);
		expect([sums.failing, sums.mended]).to.deep.equal([1, 4]);
		expect(report.languages.reduce((n, l) => n + l.of, 0)).to.equal(sums.of);
		expect(report.languages.reduce((n, l) => n + l.covered, 0)).to.equal(sums.covered);
		const page = await silentFamilies(house.db, user, silentFilterSchema.parse({}));
		expect(report.silent!.now.silent).to.equal(page.silent);
		expect(report.silent!.then.homes).to.be.above(0);
	});

	it('of schools comes to that of the district; a principal gets their own, and nobody another’s', async () => {
		const all = sumsOf((await termReport(house.db, user, whole))!.weeks);
		let [of, covered] = [0, 0];
		for (const school of schools) {
			const own = (await termReport(house.db, user, { term: 0, school }))!;
			const sums = sumsOf(own.weeks);
			of += sums.of;
			covered += sums.covered;
			const principal = as({ ...user, name: 'Ines' }, 'principal', school);
			const theirs = (await termReport(house.db, principal, whole))!;
			expect(theirs.schoolId).to.equal(school);
			expect(theirs.schools).to.deep.equal([]);
			expect(sumsOf(theirs.weeks)).to.deep.equal(sums);
			const other = schools.find((id) => id !== school)!;
			expect(await termReport(house.db, principal, { term: 0, school: other })).to.equal(null);
		}
		expect({ of, covered }).to.deep.equal({ of: all.of, covered: all.covered });
		expect(await termReport(house.db, user, { term: 99, school: 0 })).to.equal(null);
	});

	it('goes out as a table with the same counts, and on paper', async () => {
		const report = (await termReport(house.db, user, whole))!;
		const rows = parse(reportCsv(report), { bom: true, columns: true }) as Record<string, string>[];
		const sum = (what: string, column: 'count' | 'of how many') =>
			rows
				.filter((r) => r.part === 'week' && r.what === what)
				.reduce((n, r) => n + Number(r[column]), 0);
		const sums = sumsOf(report.weeks);
		expect(sum('covered within 3 days', 'count')).to.equal(sums.covered);
		expect(sum('covered within 3 days', 'of how many')).to.equal(sums.of);
		expect(sum('text: read', 'count')).to.equal(sums.ways.text.read);
		expect(sum('parts of texts', 'count')).to.equal(sums.parts);
		const pdf = await reportPdf(report, { district: 'Brackwater Isles', clock: '12' });
		expect(pdf.subarray(0, 5).toString()).to.equal('%PDF-');
	});
});
