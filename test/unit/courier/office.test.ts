import {
	copyFileSync,
	mkdtempSync,
	readdirSync,
	readFileSync,
	rmSync,
	statSync,
	unlinkSync,
	writeFileSync
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect } from 'chai';
import { claim, placeInbox } from '../../../courier/claim';
import { identity, type RunsIn } from '../../../courier/identity';
import { writeOutcomes } from '../../../courier/outcomes';
import { linkKey } from '../../../src/lib/server/access/link-key';
import { addresseeOf } from '../../../src/lib/server/access/return-address';
import { moveTo, now } from '../../../src/lib/server/clock';
import { heldSchema, makeMark, markFile } from '../../../src/lib/server/db/mark';
import { openDatabase, type Db } from '../../../src/lib/server/db/open';
import { ownInboxLink } from '../../../src/lib/server/access/own-link';
import { schedule } from '../../../src/lib/server/desk/send/schedule';
import { addressOf, tokenOf } from '../../named';
import { coordinator, sheetOf, testSchool, type TestSchool } from '../server/database';
import { openLink } from '../../../src/lib/server/access/private-link';

const key = Buffer.alloc(32, 7);
/** A place that no look can find out about, as on another machine. */
const elsewhere = (over: Partial<RunsIn> = {}): RunsIn => ({
	boot: 'another machine',
	space: 'pid:[1]',
	pid: 1,
	began: '5',
	...over
});

describe('who is in office', () => {
	let school: TestSchool;
	let time: number;
	const steady = () => time;
	beforeEach(async () => {
		school = await testSchool();
		time = 0;
		await schedule(school.db, key, coordinator, sheetOf({ holdMinutes: 0 }), 5);
		await moveTo(school.db, (await now(school.db)) + 1_000);
	});
	afterEach(() => school.close());

	it('is one of two that both are process 1 of a container: the second waits as long as the first beats', async () => {
		const first = identity(school.db, { place: elsewhere({ boot: 'a' }), steady });
		const second = identity(school.db, { place: elsewhere({ boot: 'b' }), steady });
		expect(await first.beat()).to.equal(true);
		for (time = 0; time < 60_000; time += 4_000) {
			expect(await second.beat()).to.equal(false);
			expect(await first.beat()).to.equal(true);
		}
		expect(await claim(school.db, second, 'text', 10)).to.deep.equal([]);
		expect(await claim(school.db, first, 'text', 10)).to.have.length(2);
	});

	it('does not depend on the machine’s time: an hour on or back makes no second one', async () => {
		const real = Date.now;
		try {
			const first = identity(school.db, { place: elsewhere({ boot: 'a' }), steady });
			const second = identity(school.db, { place: elsewhere({ boot: 'b' }), steady });
			await first.beat();
			for (const shift of [3_600_000, -3_600_000, 0]) {
				Date.now = () => real() + shift;
				await first.beat();
				time += 1_000;
				expect(await second.beat()).to.equal(false);
			}
		} finally {
			Date.now = real;
		}
	});

	it('passes on when the beats have stopped for ten seconds, with the claims; what the first says late frees no claim of the second', async () => {
		const first = identity(school.db, { place: elsewhere({ boot: 'a' }), steady });
		const second = identity(school.db, { place: elsewhere({ boot: 'b' }), steady });
		await first.beat();
		const [copy] = await claim(school.db, first, 'email', 10);
		expect(await second.beat()).to.equal(false);
		time = 9_999;
		expect(await second.beat()).to.equal(false);
		time = 10_000;
		expect(await second.beat()).to.equal(true);
		expect([first.fence, second.fence]).to.deep.equal([1, 2]);
		const again = await claim(school.db, second, 'email', 10);
		expect(again.map((c) => c.id)).to.deep.equal([copy!.id]);
		// What had no answer was no try: however often couriers die, nothing is given up for it.
		expect(again[0]!.attempts).to.equal(1);
		// The first wakes up again: it has lost the office, and claims nothing.
		expect(await claim(school.db, first, 'text', 10)).to.deep.equal([]);
		expect(await placeInbox(school.db, first)).to.equal(0);
		expect(await first.beat()).to.equal(false);
		const at = await now(school.db);
		await school.db.write((tx) =>
			writeOutcomes(tx, [{ copy: copy!, outcome: { kind: 'deferred', detail: 'later' }, at }])
		);
		expect(
			await school.db.one('SELECT claimed_by AS fence, attempts FROM delivery WHERE id = $id', {
				id: copy!.id
			})
		).to.deep.equal({ fence: 2, attempts: 1 });
	});

	it('passes on at once when the process that had it is gone for certain, and not while it is there', async () => {
		const boot = readFileSync('/proc/sys/kernel/random/boot_id', 'utf8').trim();
		const me = identity(school.db, { steady });
		await me.beat();
		const own = JSON.parse(
			(await school.db.one<{ place: string }>('SELECT runs_in AS place FROM courier'))!.place
		) as RunsIn;
		expect(own).to.include({ boot, pid: process.pid });
		const other = identity(school.db, { steady });
		expect(await other.beat()).to.equal(false);
		// Its number is somebody else's by now.
		await school.db.run('UPDATE courier SET runs_in = $place', {
			place: JSON.stringify({ ...own, began: '1' })
		});
		expect(await other.beat()).to.equal(true);
	});

	it('is free at once when it was left', async () => {
		const first = identity(school.db, { place: elsewhere(), steady });
		await first.beat();
		await first.leave();
		expect(await identity(school.db, { place: elsewhere(), steady }).beat()).to.equal(true);
	});
});

describe('a database that was put back', () => {
	let school: TestSchool;
	/** Opened anew whenever another file lies in its place. */
	let db: Db;
	let copy: string;
	const send = async (on: Db) => {
		const sent = await schedule(on, key, coordinator, sheetOf({ holdMinutes: 0 }), 5);
		if (!sent.ok) throw new Error(sent.checks[0]!.text);
		await moveTo(on, (await now(on)) + 1_000);
	};
	/** A courier that comes, sends all, and goes. */
	const letAllLeave = async (db: Db) => {
		const me = identity(db);
		await me.beat();
		const claimed = [...(await claim(db, me, 'email', 50)), ...(await claim(db, me, 'text', 50))];
		const at = await now(db);
		await db.write((tx) =>
			writeOutcomes(
				tx,
				claimed.map((c) => ({ copy: c, outcome: { kind: 'accepted', detail: 'ok' } as const, at }))
			)
		);
		const inbox = await placeInbox(db, me);
		await me.leave();
		return claimed.length + inbox;
	};
	const held = async (db: Db) => {
		const row = await db.one<{ held: string | null }>('SELECT held FROM mark');
		return row!.held === null ? null : heldSchema.parse(JSON.parse(row!.held)).why;
	};
	const backup = async () => {
		await db.run('VACUUM INTO $copy', { copy });
	};
	/** The backup in the place of the database, as `cp` puts it there: over it. */
	const restore = async () => {
		await db.close();
		for (const end of ['-wal', '-shm']) rmSync(`${db.file}${end}`, { force: true });
		copyFileSync(copy, db.file);
		db = await openDatabase(db.file, { durable: false });
	};
	beforeEach(async () => {
		school = await testSchool();
		({ db } = school);
		copy = join(school.folder, 'backup.sqlite');
	});
	afterEach(async () => {
		await db.close();
		rmSync(school.folder, { recursive: true });
	});

	it('opens no inbox and takes no report by what was sent in the time it has lost', async () => {
		await backup();
		await send(db);
		await letAllLeave(db);
		const ids = (await db.all<{ id: number }>('SELECT id FROM delivery')).map((r) => r.id);
		const lost = {
			tokens: await Promise.all(ids.map((id) => tokenOf(db, key, id))),
			addresses: await Promise.all(ids.map((id) => addressOf(db, key, 'return', id))),
			own: (await ownInboxLink(db, key, 10)).path.slice(3)
		};
		await restore();
		await send(db);
		// The numbers are the same again, and in the hands of others.
		expect(
			(await db.all<{ id: number }>('SELECT id FROM delivery')).map((r) => r.id)
		).to.deep.equal(ids);
		await ownInboxLink(db, key, 12);
		for (const token of [...lost.tokens, lost.own]) {
			expect((await openLink(db, token)).ok).to.equal(false);
		}
		for (const address of lost.addresses) {
			expect(await addresseeOf(db, key, address)).to.equal(null);
		}
		const fresh = await addressOf(db, key, 'return', ids[0]!);
		expect(await addresseeOf(db, key, fresh)).to.deep.equal({
			mailbox: 'return',
			id: ids[0]
		});
	});

	it('lets nothing leave until somebody has looked, where it is older than what was sent', async () => {
		await send(db);
		await backup();
		expect(await letAllLeave(db)).to.equal(5);
		await restore();
		// For this database all five are still due.
		expect(await letAllLeave(db)).to.equal(0);
		expect(await held(db)).to.equal('older');
		// Also after the courier was started again.
		expect(await letAllLeave(db)).to.equal(0);
		await makeMark(db).accept();
		expect(await letAllLeave(db)).to.equal(5);
		expect(await held(db)).to.equal(null);
	});

	it('has its mark written by ways that claim at the same moment, the highest number last', async () => {
		const mark = makeMark(db);
		const numbers = Array.from({ length: 60 }, (_, i) => (i * 37) % 60);
		await Promise.all(numbers.map((number) => mark.keep(number)));
		expect(JSON.parse(readFileSync(markFile(db.file), 'utf8'))).to.include({ number: 59 });
		expect(readdirSync(school.folder).filter((name) => name.endsWith('.part'))).to.deep.equal([]);
	});

	it('is told from one that goes on where it was: started again, and put back to when nothing has left since', async () => {
		await send(db);
		await letAllLeave(db);
		await backup();
		expect(await letAllLeave(db)).to.equal(0);
		await restore();
		await send(db);
		expect(await letAllLeave(db)).to.equal(5);
		expect(await held(db)).to.equal(null);
	});

	it('is noticed where it was copied elsewhere, with its mark, without it, or with one that cannot be read', async () => {
		await send(db);
		await letAllLeave(db);
		await send(db);
		await backup();
		for (const [what, why] of [
			['with', 'copied'],
			['without', 'no-mark'],
			['garbled', 'no-mark']
		] as const) {
			const folder = mkdtempSync(join(tmpdir(), 'idle-copied-'));
			const file = join(folder, 'courier.sqlite');
			copyFileSync(copy, file);
			if (what === 'with') copyFileSync(markFile(db.file), markFile(file));
			if (what === 'garbled') writeFileSync(markFile(file), '{"number":');
			const other = await openDatabase(file, { durable: false });
			expect(await letAllLeave(other), what).to.equal(0);
			expect(await held(other), what).to.equal(why);
			await other.close();
			rmSync(folder, { recursive: true });
		}
		// The one it was copied from goes on.
		expect(await letAllLeave(db)).to.equal(5);
	});

	it('uses no number of a copy again that was taken back', async () => {
		await send(db);
		const last = async () =>
			(await db.one<{ id: number }>('SELECT max(id) AS id FROM delivery'))!.id;
		const before = await last();
		await db.run('DELETE FROM delivery');
		await send(db);
		expect(await last()).to.equal(before + 5);
	});
});

describe('the link key', () => {
	let school: TestSchool;
	let file: string;
	beforeEach(async () => {
		school = await testSchool();
		file = join(school.folder, 'link.key');
	});
	afterEach(() => school.close());
	const why = () =>
		linkKey(school.folder, school.db).then(
			() => '',
			(e: Error) => e.message
		);

	it('is made once for a database without links, readable by its owner only, also where two start at once', async () => {
		const [a, b] = await Promise.all([
			linkKey(school.folder, school.db),
			linkKey(school.folder, school.db)
		]);
		expect(a).to.have.length(32);
		expect(a.equals(b)).to.equal(true);
		expect((await linkKey(school.folder, school.db)).equals(a)).to.equal(true);
		expect(statSync(file).mode & 0o777).to.equal(0o600);
	});

	for (const [what, text] of [
		['empty', ''],
		['blank', ' \n'],
		['short', 'abc'],
		['garbled', 'x'.repeat(42) + '!'],
		['too long', 'A'.repeat(44)]
	] as const) {
		it(`is refused where it is ${what}, with what to do, and is left as it is`, async () => {
			writeFileSync(file, text);
			expect(await why())
				.to.contain(file)
				.and.match(/cannot be used[\s\S]*Put back the link\.key of the backup/);
			expect(readFileSync(file, 'utf8')).to.equal(text);
		});
	}

	it('is not made anew in silence where links are out in the world', async () => {
		await linkKey(school.folder, school.db);
		await schedule(school.db, key, coordinator, sheetOf(), 5);
		unlinkSync(file);
		expect(await why()).to.match(/is missing, and this database has sent links/);
	});
});
