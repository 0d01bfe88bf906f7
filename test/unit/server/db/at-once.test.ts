import { expect } from 'chai';
import { longHolds } from '../../../../src/lib/server/db/long-holds';
import { openDatabase } from '../../../../src/lib/server/db/open';
import { testSchool, type TestSchool } from '../database';

describe('a transaction in one go', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
	});
	afterEach(() => school.close());
	const always = { sql: '1', bind: {} };
	const put = (name: string, value: string | number | null) => ({
		sql: 'INSERT INTO setting (key, value) VALUES ($name, $value)',
		bind: { name, value }
	});
	const there = async () =>
		(
			await school.db.all<{ name: string; value: string }>(
				`SELECT key AS name, value FROM setting WHERE key LIKE 'at once%' ORDER BY key`
			)
		).map(({ name, value }) => [name, value]);

	it('writes what it is given as it is, whatever stands in it', async () => {
		const hostile = [
			"it's; DROP TABLE setting; --",
			"'); COMMIT; --",
			'$name $value $1 \\',
			'{"a":"\'\'"}',
			'مرحبا 🦀\n\r\t'
		];
		const deeds = hostile.map((value, i) => put(`at once ${i}`, value));
		expect(await school.db.writeAtOnce(always, deeds)).to.equal(true);
		expect(await there()).to.deep.equal(hostile.map((value, i) => [`at once ${i}`, value]));
	});

	it('does nothing where its condition does not hold, and the next one is free to go', async () => {
		const stands = { sql: '$n = 2', bind: { n: 1 } };
		expect(await school.db.writeAtOnce(stands, [put('at once', 'a')])).to.equal(false);
		expect(await there()).to.deep.equal([]);
		await school.db.write((tx) => tx.run(put('at once', 'b').sql, put('at once', 'b').bind));
		expect(await there()).to.deep.equal([['at once', 'b']]);
	});

	it('does nothing where a part of it fails, says why, and the next one is free to go', async () => {
		const twice = [put('at once', 'a'), put('at once', 'again')];
		const failed = await school.db.writeAtOnce(always, twice).catch((error: unknown) => error);
		expect(String(failed)).to.match(/UNIQUE constraint failed/);
		expect(await there()).to.deep.equal([]);
		expect(await school.db.writeAtOnce(always, [put('at once', 'b')])).to.equal(true);
		expect(await there()).to.deep.equal([['at once', 'b']]);
	});

	it('takes no value that would end the text early, and leaves what is longer than the engine reads to those who go by steps', async () => {
		const cut = await school.db
			.writeAtOnce(always, [put('at once', 'a\0b')])
			.catch((error: unknown) => error);
		expect(String(cut)).to.match(/cannot be given "a\\u0000b" for \$value/);
		expect(await school.db.writeAtOnce(always, [put('at once', 'é'.repeat(450_000))])).to.equal(
			false
		);
		expect(await there()).to.deep.equal([]);
	});

	it('sees what others wrote before it had the lock, and is kept as a long hold only for as long as it had it itself', async () => {
		const other = await openDatabase(school.db.file);
		let waiting: Promise<boolean> | undefined;
		await other.write(async (tx) => {
			await tx.run(put('at once', 'theirs').sql, put('at once', 'theirs').bind);
			waiting = school.db.writeAtOnce(
				{ sql: `NOT EXISTS (SELECT 1 FROM setting WHERE key = 'at once')`, bind: {} },
				[put('at once 2', 'ours')]
			);
			await new Promise((go) => setTimeout(go, 150));
		});
		expect(await waiting).to.equal(false);
		let second: Promise<boolean> | undefined;
		await other.write(async () => {
			second = school.db.writeAtOnce(always, [put('at once 2', 'ours')]);
			await new Promise((go) => setTimeout(go, 1_000));
		});
		expect(await second).to.equal(true);
		await other.close();
		expect(await there()).to.deep.equal([
			['at once', 'theirs'],
			['at once 2', 'ours']
		]);
		// It waited for a second, and wrote one row.
		const mine = (await longHolds(school.db.file, 0)).holds.filter((h) => h.ms > 900);
		expect(mine.length).to.equal(1);
	});
});
