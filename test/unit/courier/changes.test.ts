import { mkdtempSync, rmSync, symlinkSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
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
		while (changes.count === 0) await changes.wait(60_000, 0);
	});
	afterEach(async () => {
		changes.end();
		await other.close();
		await school.close();
	});
	/** Until another's change was seen that was made after all that went before, however long the machine stands still meanwhile. */
	const seen = async (of: Db) => {
		const { count } = changes;
		await of.run('UPDATE clock SET offset_ms = offset_ms + 1');
		while (changes.count === count) await changes.wait(60_000, count);
		return changes.count;
	};

	it('tells what another connection has put down, each time', async () => {
		const { count } = changes;
		for (let i = 1; i <= 5; i += 1) expect(await seen(other)).to.be.at.least(count + i);
	});

	it('tells it also where nothing says that the log was written: a slow disk shows a commit long after', async () => {
		// SQLite keeps the log beside the file itself, not beside a link to it: this folder hears nothing.
		const elsewhere = mkdtempSync(join(tmpdir(), 'idle-courier-changes-'));
		const file = join(elsewhere, 'courier.sqlite');
		symlinkSync(school.db.file, file);
		const deaf = watchChanges({ ...school.db, file });
		try {
			while (deaf.count === 0) await deaf.wait(60_000, 0);
			for (let i = 0; i < 2; i += 1) {
				const { count } = deaf;
				await other.run('UPDATE clock SET offset_ms = offset_ms + 1');
				while (deaf.count === count) await deaf.wait(60_000, count);
			}
		} finally {
			deaf.end();
			rmSync(elsewhere, { recursive: true });
		}
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
