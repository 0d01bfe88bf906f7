import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, readdirSync, statSync, unlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import { linkKey } from '../../../src/lib/server/access/link-key';
import { openDatabase } from '../../../src/lib/server/db/open';
import { schedule } from '../../../src/lib/server/desk/send/schedule';
import { backUp } from '../../../upkeep/backup';
import { tokenOf } from '../../named';
import { coordinator, sheetOf, testSchool, type TestSchool } from '../server/database';
import { openLink } from '../../../src/lib/server/access/private-link';

describe('a backup', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
		await linkKey(school.folder, school.db);
		mkdirSync(join(school.folder, 'files'));
		writeFileSync(join(school.folder, 'files', 'a'.repeat(64)), 'a map of the harbor');
		writeFileSync(join(school.folder, 'files', `${'b'.repeat(64)}.7.part`), 'half');
	});
	afterEach(() => school.close());

	it('ends while others write without a pause, holds one moment of the database, and leaves no long log', async () => {
		// A row each in two tables in every commit: at any moment both have the same number.
		await school.db.run('CREATE TABLE left_hand (n INTEGER, filler TEXT)');
		await school.db.run('CREATE TABLE right_hand (n INTEGER, filler TEXT)');
		let going = true;
		let n = 0;
		const both = () =>
			school.db.write(async (tx) => {
				n += 1;
				await tx.run(`INSERT INTO left_hand VALUES (${n}, hex(randomblob(8000)))`);
				await tx.run(`INSERT INTO right_hand VALUES (${n}, hex(randomblob(8000)))`);
			});
		for (let i = 0; i < 400; i += 1) await both();
		const writing = (async () => {
			while (going) await both();
		})();
		const into = join(school.folder, 'backups', 'first');
		const before = n;
		const made = await backUp(school.folder, into);
		going = false;
		await writing;
		expect(n).to.be.above(before);
		expect(made.files).to.equal(1);
		expect(made.logBytes).to.be.below(4_000_000);
		const copy = await openDatabase(join(into, 'courier.sqlite'), { durable: false });
		const counts = await copy.one<{ l: number; r: number; people: number }>(
			`SELECT (SELECT count(*) FROM left_hand) AS l, (SELECT count(*) FROM right_hand) AS r,
				(SELECT count(*) FROM person) AS people`
		);
		await copy.close();
		expect(counts!.l).to.equal(counts!.r).and.be.at.least(before);
		expect(counts!.people).to.be.above(0);
		expect(readdirSync(join(into, 'files'))).to.deep.equal(['a'.repeat(64)]);
		expect(readdirSync(into).filter((f) => f.startsWith('courier.mark'))).to.deep.equal([]);
		for (const file of ['courier.sqlite', 'link.key', 'backup.json']) {
			expect(statSync(join(into, file)).mode & 0o777, file).to.equal(0o600);
		}
		expect(statSync(into).mode & 0o777).to.equal(0o700);
		expect(readFileSync(join(into, 'link.key'))).to.deep.equal(
			readFileSync(join(school.folder, 'link.key'))
		);
	});

	it('overwrites nothing, and leaves nothing half behind where something is missing', async () => {
		const into = join(school.folder, 'backups', 'first');
		await backUp(school.folder, into);
		const why = (work: Promise<unknown>) =>
			work.then(
				() => '',
				(e: Error) => e.message
			);
		expect(await why(backUp(school.folder, into))).to.match(/is there already/);
		expect(await why(backUp('/no/such/folder', `${into}2`))).to.match(/There is no database at/);
		unlinkSync(join(school.folder, 'link.key'));
		expect(await why(backUp(school.folder, `${into}3`))).to.match(/link\.key/);
		expect(readdirSync(join(school.folder, 'backups'))).to.deep.equal(['first']);
	});
});

describe('a link key that is lost for good', () => {
	it('is made anew by a command that says first what ends by it; nothing of the old one opens anything', async () => {
		const school = await testSchool();
		try {
			const old = await linkKey(school.folder, school.db);
			const sent = await schedule(school.db, old, coordinator, sheetOf(), 5);
			if (!sent.ok) throw new Error('not sent');
			const [{ id }] = (await school.db.all<{ id: number }>(
				`SELECT id FROM delivery WHERE way = 'email'`
			)) as [{ id: number }];
			const before = await tokenOf(school.db, old, id);
			const command = (...args: string[]) =>
				spawnSync(process.execPath, ['--import', 'tsx', 'upkeep/new-key.ts', ...args], {
					env: { ...process.env, IDLE_COURIER_DATA: school.folder },
					encoding: 'utf8'
				}).stdout;
			expect(command()).to.match(/0 links in letters.*\nNothing was changed/);
			expect((await openLink(school.db, before)).ok).to.equal(true);
			expect(command('--yes')).to.match(/there is a new key/);
			expect((await openLink(school.db, before)).ok).to.equal(false);
			const key = await linkKey(school.folder, school.db);
			expect(key.equals(old)).to.equal(false);
			expect((await openLink(school.db, await tokenOf(school.db, old, id))).ok).to.equal(false);
			expect((await openLink(school.db, await tokenOf(school.db, key, id))).ok).to.equal(true);
		} finally {
			await school.close();
		}
	});
});
