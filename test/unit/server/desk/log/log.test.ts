import { expect } from 'chai';
import { writeDown } from '../../../../../src/lib/server/access/log';
import { userWith } from '../../../../../src/lib/server/access/rights';
import { logActs } from '../../../../../src/lib/server/db/models/log';
import { moveDispatch } from '../../../../../src/lib/server/desk/send/move';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { logFilterSchema, logOfThing, logPage } from '../../../../../src/lib/server/desk/log/log';
import { actsOfKind } from '../../../../../src/lib/server/desk/log/types';
import {
	as,
	coordinator,
	sheetOf,
	teacher,
	testSchool,
	testStart,
	type TestSchool
} from '../../database';

const key = Buffer.alloc(32, 7);
const filter = (over: object = {}) => logFilterSchema.parse(over);

describe('what was done, as it is read', () => {
	let school: TestSchool;
	beforeEach(async () => (school = await testSchool()));
	afterEach(() => school.close());
	const page = (over: object = {}, user = coordinator) => logPage(school.db, user, filter(over));
	const put = (...deeds: Parameters<typeof writeDown>[1][]) =>
		school.db.write((tx) => writeDown(tx, ...deeds));

	it('says a sheet that is scheduled and moved in words, also on the sheet itself, and holds none of its words', async () => {
		const at = new Date(testStart + 86_400_000).toISOString().slice(0, 16);
		const sheet = sheetOf({ timing: { ...sheetOf().timing, when: { kind: 'at', at } } });
		const sent = await schedule(school.db, key, coordinator, sheet, 5);
		if (!sent.ok) throw new Error(sent.checks.map((c) => c.text).join(' '));
		const { base } = (await school.db.one<{ base: number }>(
			'SELECT changed_at AS base FROM dispatch'
		))!;
		const later = `${at.slice(0, 11)}21:00`;
		expect(
			(await moveDispatch(school.db, key, coordinator, sent.dispatchId, later as never, base)).ok
		).to.equal(true);
		const lines = await logOfThing(school.db, ['dispatch', sent.dispatchId]);
		expect(lines.map((l) => l.by)).to.deep.equal(['Maren Quill', 'Maren Quill']);
		expect(lines[0]!.words).to.match(
			/^moved “.*” from Wed Mar 10, 3:00 pm to Wed Mar 10, 9:00 pm$/
		);
		expect(lines[1]!.words).to.match(/^scheduled “.*”: 5 copies, leaving /);
		// On its own page a line leads nowhere; in the log it leads there.
		expect(lines[0]!.href).to.equal(null);
		expect((await page()).lines[0]!.href).to.equal(`/reach/${sent.dispatchId}`);
		const stored = JSON.stringify(await school.db.all('SELECT * FROM log_line'));
		expect(stored).not.to.contain(sheet.wording.words.subject.trim());
	});

	it('has words for every act, and every act has a kind to be found by', async () => {
		await put(...logActs.map((act) => ({ act, by: coordinator, to: ['person', 12] as const })));
		const { lines, found } = await page();
		expect(found).to.equal(logActs.length);
		for (const { words } of lines)
			expect(words)
				.to.be.a('string')
				.and.not.match(/undefined|NaN|\[object/);
		const kinds = Object.values(actsOfKind).flat();
		expect([...kinds].sort()).to.deep.equal([...logActs].sort());
	});

	it('is looked through by who, what and day, a page at a time', async () => {
		await put(...Array.from({ length: 60 }, () => ({ act: 'signed-in' as const, by: teacher })), {
			act: 'roster-refused',
			by: null
		});
		expect(await page()).to.include({ found: 61, page: 1, pages: 2 });
		expect((await page({ page: 99 })).lines).to.have.length(11);
		expect((await page({ by: 91 })).found).to.equal(60);
		expect((await page({ by: '0' })).lines.map((l) => l.by)).to.deep.equal([null]);
		expect((await page({ kind: 'rosters' })).found).to.equal(1);
		expect((await page({ from: '2027-03-09', until: '2027-03-09' })).found).to.equal(61);
		expect((await page({ until: '2027-03-08' })).found).to.equal(0);
		// What is no filter is none.
		expect(await page({ by: "1' OR 1", kind: 'x', from: 'today', page: -4 })).to.include({
			found: 61
		});
		expect((await page()).people.map((p) => p.name)).to.deep.equal(['Chidi Okafor']);
	});

	it('of a school is read by whoever has that right there, and holds nothing of the district', async () => {
		await put(
			{
				act: 'closure-put',
				by: coordinator,
				schoolId: 1,
				after: { startsOn: '2027-03-10', endsOn: '2027-03-11' }
			},
			{
				act: 'closure-put',
				by: coordinator,
				after: { startsOn: '2027-03-10', endsOn: '2027-03-11' }
			},
			{ act: 'signed-in', by: coordinator }
		);
		const principal = as(teacher, 'principal', 1);
		expect((await page({}, principal)).found).to.equal(1);
		expect((await page({}, as(teacher, 'principal', 2))).found).to.equal(0);
		expect((await page({}, teacher)).found).to.equal(0);
		expect(await page({}, userWith(teacher, []))).to.deep.include({ found: 0, people: [] });
	});

	it('says of somebody who is gone from the table that they are gone, and stays whole', async () => {
		await put({
			act: 'person-changed',
			by: coordinator,
			to: ['person', 99_999],
			after: { fields: ['email'] }
		});
		expect((await page()).lines[0]!).to.include({
			words: 'changed somebody who was erased: email',
			href: null
		});
	});
});
