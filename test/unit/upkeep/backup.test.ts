import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, readdirSync, statSync, unlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import { makeAccountLink, openAccountLink } from '../../../src/lib/server/access/account-links';
import { openSession, sessionOf } from '../../../src/lib/server/access/sessions';
import { accountToken } from '../../../src/lib/server/access/tokens';
import { linkKey } from '../../../src/lib/server/access/link-key';
import { openDatabase } from '../../../src/lib/server/db/open';
import { schedule } from '../../../src/lib/server/desk/send/schedule';
import { backUp } from '../../../upkeep/backup';
import { restore } from '../../../upkeep/restore';
import { claim } from '../../../courier/claim';
import { identity } from '../../../courier/identity';
import { moveTo, now } from '../../../src/lib/server/clock';
import { makeMark } from '../../../src/lib/server/db/mark';
import { goOnPutBack, putBackOf } from '../../../src/lib/server/desk/send/put-back';
import { tokenOf } from '../../named';
import { coordinator, sheetOf, testSchool, type TestSchool } from '../server/database';
import { openLink } from '../../../src/lib/server/access/private-link';

const why = (work: Promise<unknown>): Promise<string> =>
	work.then(
		() => '',
		(e: Error) => e.message
	);

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
		const into = join(school.folder, 'backups', 'first.zip');
		const before = n;
		const made = await backUp(school.folder, into);
		going = false;
		await writing;
		expect(n).to.be.above(before);
		expect(made.files).to.equal(1);
		expect(made.logBytes).to.be.below(4_000_000);
		expect(statSync(into).mode & 0o777).to.equal(0o600);
		const anew = join(school.folder, 'anew');
		expect(await restore(into, anew)).to.include({ files: 1 });
		const copy = await openDatabase(join(anew, 'courier.sqlite'), { durable: false });
		const counts = await copy.one<{ l: number; r: number; people: number }>(
			`SELECT (SELECT count(*) FROM left_hand) AS l, (SELECT count(*) FROM right_hand) AS r,
				(SELECT count(*) FROM person) AS people`
		);
		await copy.close();
		expect(counts!.l).to.equal(counts!.r).and.be.at.least(before);
		expect(counts!.people).to.be.above(0);
		expect(readdirSync(anew).sort()).to.deep.equal(['courier.sqlite', 'files', 'link.key']);
		expect(readdirSync(join(anew, 'files'))).to.deep.equal(['a'.repeat(64)]);
		expect(readFileSync(join(anew, 'files', 'a'.repeat(64)), 'utf8')).to.equal(
			'a map of the harbor'
		);
		for (const file of ['courier.sqlite', 'link.key']) {
			expect(statSync(join(anew, file)).mode & 0o777, file).to.equal(0o600);
		}
		for (const folder of [anew, join(anew, 'files')])
			expect(statSync(folder).mode & 0o777, folder).to.equal(0o700);
		expect(readFileSync(join(anew, 'link.key'))).to.deep.equal(
			readFileSync(join(school.folder, 'link.key'))
		);
	});

	it('overwrites nothing, and leaves nothing half behind where something is missing', async () => {
		const into = join(school.folder, 'backups', 'first.zip');
		await backUp(school.folder, into);
		expect(await why(backUp(school.folder, into))).to.match(/is there already/);
		expect(await why(backUp('/no/such/folder', `${into}2`))).to.match(/There is no database at/);
		unlinkSync(join(school.folder, 'link.key'));
		expect(await why(backUp(school.folder, `${into}3`))).to.match(/link\.key/);
		expect(readdirSync(join(school.folder, 'backups'))).to.deep.equal(['first.zip']);
	});
});

describe('a backup that is put back', () => {
	let school: TestSchool;
	let archive: string;
	let anew: string;
	beforeEach(async () => {
		school = await testSchool();
		await linkKey(school.folder, school.db);
		mkdirSync(join(school.folder, 'files'));
		writeFileSync(join(school.folder, 'files', 'a'.repeat(64)), 'a map of the harbor');
		archive = join(school.folder, 'backups', 'first.zip');
		anew = join(school.folder, 'anew');
	});
	afterEach(() => school.close());

	it('sends nothing that may have left since, also where nothing had left before it was taken, until somebody has looked', async () => {
		const key = await linkKey(school.folder, school.db);
		await schedule(school.db, key, coordinator, sheetOf({ holdMinutes: 0 }), 5);
		await backUp(school.folder, archive);
		await restore(archive, anew);
		const db = await openDatabase(join(anew, 'courier.sqlite'), { durable: false });
		await moveTo(db, (await now(db)) + 60_000);
		expect(await makeMark(db).look()).to.deep.include({ why: 'restored', lastLeftAt: null });
		expect(await putBackOf(db, coordinator)).to.deep.include({ why: 'restored', due: 5 });
		// A courier holds no office where nothing may leave.
		expect(await claim(db, identity(db), 'email', 10)).to.deep.equal([]);
		expect(await goOnPutBack(db, coordinator, 'leave-out')).to.have.property('ok', true);
		const me = identity(db);
		expect(await me.beat()).to.equal(true);
		expect(await claim(db, me, 'email', 10)).to.deep.equal([]);
		await db.close();
	});

	it('lets nobody in by a session or a mailed link of then, which may have been ended or used since', async () => {
		const key = await linkKey(school.folder, school.db);
		const session = await school.db.write((tx) =>
			openSession(tx, 90, { address: '', agent: '' }, { before: undefined, factor: 'given' })
		);
		const link = await school.db.write((tx) =>
			makeAccountLink(tx, { personId: 90, kind: 'reset', madeBy: null })
		);
		const { nonce } = (await school.db.one<{ nonce: string }>('SELECT nonce FROM account_link'))!;
		const token = accountToken(key, { id: link, nonce });
		expect(await openAccountLink(school.db, key, token)).to.include({ ok: true });
		await backUp(school.folder, archive);
		await restore(archive, anew);
		const db = await openDatabase(join(anew, 'courier.sqlite'), { durable: false });
		expect(await sessionOf(db, session.token)).to.equal(null);
		expect(await openAccountLink(db, key, token)).to.deep.equal({ ok: false, ended: true });
		await db.close();
	});

	it('goes into an empty folder only, and what is no whole backup of ours leaves nothing behind', async () => {
		await backUp(school.folder, archive);
		expect(await why(restore(archive, school.folder))).to.match(/is not empty \(/);
		const octets = readFileSync(archive);
		const at = octets.indexOf('a map of the harbor');
		const bad = (name: string, content: Buffer) => {
			const path = join(school.folder, name);
			writeFileSync(path, content);
			return restore(path, anew);
		};
		const changed = Buffer.from(octets);
		changed[at]! ^= 1;
		expect(await why(bad('changed.zip', changed))).to.match(/is not what was backed up/);
		expect(await why(bad('short.zip', octets.subarray(0, -40)))).to.match(/was cut off/);
		expect(await why(bad('words.zip', Buffer.from('words')))).to.match(/is no backup/);
		expect(await why(restore(join(school.folder, 'none.zip'), anew))).to.match(/There is no file/);
		// The same length, so that only the names are others: one that leads out, and one that is no part.
		const named = (name: string) =>
			Buffer.from(octets.toString('latin1').replaceAll('link.key', name), 'latin1');
		expect(await why(bad('out.zip', named('../x.key')))).to.match(/cannot be|no part of a backup/);
		expect(await why(bad('other.zip', named('evil.key')))).to.match(/no part of a backup/);
		expect(readdirSync(anew)).to.deep.equal([]);
		expect(readdirSync(school.folder).filter((n) => n.endsWith('x.key'))).to.deep.equal([]);
	});

	it('by its command says where it lies, and what happens next', async () => {
		await backUp(school.folder, archive);
		const command = (...args: string[]) =>
			spawnSync(process.execPath, ['--import', 'tsx', 'upkeep/restore-main.ts', ...args], {
				env: { ...process.env, IDLE_COURIER_DATA: anew },
				encoding: 'utf8'
			});
		expect(command().stderr).to.match(/^Nothing was put back: Say which backup/);
		expect(command(archive).stdout).to.match(/the link key and 1 file\. Nothing leaves from there/);
		expect(command(archive).stderr).to.match(/^Nothing was put back: .*is not empty/);
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
