import { expect } from 'chai';
import { watchChanges, type Changes } from '../../../courier/changes';
import { openDatabase, type Db } from '../../../src/lib/server/db/open';
import { testSchool, type TestSchool } from '../server/database';

describe('the watch over the database', () => {
	let school: TestSchool;
	let other: Db;
	let changes: Changes;
	beforeEach(async () => {
		school = await testSchool();
		other = await openDatabase(school.db.file);
		changes = watchChanges(school.db);
		// Its first look always tells: what was there before it looked is new to it.
		await changes.wait(60_000, 0);
	});
	afterEach(async () => {
		changes.end();
		await other.close();
		await school.close();
	});
	/** Until another's change was seen that was made after all that went before. */
	const seen = async (of: Db) => {
		const { count } = changes;
		await of.run('UPDATE clock SET offset_ms = offset_ms + 1');
		await changes.wait(60_000, count);
		return changes.count > count;
	};

	it('tells what another connection has put down, each time', async () => {
		for (let i = 0; i < 5; i += 1) expect(await seen(other)).to.equal(true);
	});

	it('wakes nobody for what was written here', async () => {
		await seen(other);
		const { count } = changes;
		for (let i = 0; i < 50; i += 1)
			await school.db.run('UPDATE clock SET offset_ms = offset_ms + 1');
		await seen(other);
		// All that was told since is the one of the other connection.
		expect(changes.count).to.equal(count + 1);
	});

	it('ends every waiting at its end, and takes no new one', async () => {
		const waiting = changes.wait(60_000, changes.count);
		changes.end();
		await waiting;
		await changes.wait(60_000, changes.count);
	});
});
