import { appendFileSync, readFileSync, statSync } from 'node:fs';
import { expect } from 'chai';
import { openDatabase } from '../../../../src/lib/server/db/open';
import { keepHold, longHolds } from '../../../../src/lib/server/db/long-holds';
import { courierHealth } from '../../../../src/lib/server/desk/office/courier-status';
import { testSchool, type TestSchool } from '../database';

describe('how long the write lock is held', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
	});
	afterEach(() => school.close());
	const held = async () => (await longHolds(school.db.file, 0)).holds;

	it('is kept where others felt it, with whose it was, also where the work was undone', async () => {
		const courier = await openDatabase(school.db.file, { as: 'the courier' });
		const slow = (ms: number) => () => new Promise<void>((go) => setTimeout(go, ms));
		await courier.write(slow(120));
		await courier
			.write(async () => {
				await slow(180)();
				throw new Error('undone');
			})
			.catch(() => {});
		await courier.close();
		// They are on their way to the file when the work is over.
		while ((await held()).filter((h) => h.by === 'the courier').length < 2)
			await new Promise((go) => setImmediate(go));
		const { lock } = await courierHealth(school.db);
		expect(lock.times).to.be.at.least(2);
		expect(lock.longest!.ms).to.be.at.least(170);
		expect(statSync(`${school.db.file}-holds.jsonl`).mode & 0o777).to.equal(0o600);
	});

	it('is read of the newest, since a moment, whatever else stands there', async () => {
		expect(await longHolds(`${school.db.file}-none`, 0)).to.deep.equal({ holds: [], more: false });
		const file = school.db.file;
		appendFileSync(`${file}-holds.jsonl`, 'half a li\n{"at":"x","ms":1,"by":"y"}\n[]\n');
		const long = { at: 5_000, ms: 60, by: 'a planner' };
		await keepHold(file, long);
		await keepHold(file, { ...long, at: 1_000 });
		const { holds, more } = await longHolds(file, 2_000);
		expect(holds.filter((h) => h.at < 10_000)).to.deep.equal([long]);
		expect(more).to.equal(false);
		// Far more than is read: the oldest are not looked at any more.
		appendFileSync(
			`${file}-holds.jsonl`,
			`${JSON.stringify({ ...long, at: 7_000 })}\n`.repeat(5_000)
		);
		const read = await held();
		expect(read.length).to.be.within(1_000, 4_000);
		expect((await longHolds(file, 0)).more).to.equal(true);
		expect((await longHolds(file, 8_000)).more).to.equal(false);
		expect(read.some((h) => h.at === 5_000)).to.equal(false);
		// It grows no further than it may, and keeps the newest.
		appendFileSync(
			`${file}-holds.jsonl`,
			`${JSON.stringify({ ...long, at: 7_000 })}\n`.repeat(25_000)
		);
		await keepHold(file, { ...long, at: 9_000 });
		expect(readFileSync(`${file}-holds.jsonl`, 'utf8').length).to.be.within(64_000, 200_000);
		expect((await held()).at(-1)!.at).to.be.at.least(9_000);
	});
});
