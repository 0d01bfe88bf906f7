import { expect } from 'chai';
import { claim, placeInbox } from '../../../courier/claim';
import { grouped } from '../../../courier/grouped';
import { identity } from '../../../courier/identity';
import { writeOutcomes } from '../../../courier/outcomes';
import { takeNotification, takeTextReceipt } from '../../../courier/receipts';
import { returnAddress } from '../../../src/lib/server/access/tokens';
import { moveTo, now } from '../../../src/lib/server/clock';
import { schedule } from '../../../src/lib/server/desk/schedule';
import type { Outcome } from '../../../src/lib/server/gateway/outcome';
import { coordinator, sheetOf, testSchool, type TestSchool } from './database';

const key = Buffer.alloc(32, 7);

describe('the courier', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
		const sheet = sheetOf();
		expect((await schedule(school.db, key, coordinator, sheet, 5)).ok).to.equal(true);
	});
	afterEach(() => school.close());
	const pass = async (minutes: number) =>
		moveTo(school.db, (await now(school.db)) + minutes * 60_000);
	const row = (id: number) =>
		school.db.one<{ state: string; attempts: number; claimed_by: string | null; due_at: number }>(
			'SELECT state, attempts, claimed_by, due_at FROM delivery WHERE id = $id',
			{ id }
		);
	const settle = async (copy: Awaited<ReturnType<typeof claim>>[number], outcome: Outcome) =>
		school.db.write((tx) => writeOutcomes(tx, [{ copy, outcome }]));

	it('claims nothing while the hold runs, and everything after it, once', async () => {
		const me = identity(school.db);
		await me.beat();
		expect(await claim(school.db, me, 'text', 100)).to.deep.equal([]);
		expect(await placeInbox(school.db, me)).to.equal(0);
		await pass(6);
		const [a, b] = await Promise.all([
			claim(school.db, me, 'text', 1),
			claim(school.db, me, 'text', 100)
		]);
		expect([...a, ...b].map((c) => c.address).sort()).to.deep.equal([
			'+12075550101',
			'+12075550102'
		]);
		expect(await claim(school.db, me, 'text', 100)).to.deep.equal([]);
		expect(await placeInbox(school.db, me)).to.equal(2);
		expect(await placeInbox(school.db, me)).to.equal(0);
	});

	it('lets a second courier send nothing while the first lives, and take over its claims when it is gone', async () => {
		const first = identity(school.db);
		await first.beat();
		await pass(6);
		const [copy] = await claim(school.db, first, 'email', 10);
		// The second one stands for another process: it finds a live pid that is not its own.
		await school.db.run('UPDATE courier SET pid = $pid', { pid: process.ppid });
		const second = identity(school.db);
		expect(await second.beat()).to.equal(false);
		expect(await claim(school.db, second, 'text', 10)).to.deep.equal([]);
		await school.db.run('UPDATE courier SET pid = 999999999');
		expect(await second.beat()).to.equal(true);
		expect((await claim(school.db, second, 'email', 10)).map((c) => c.id)).to.deep.equal([
			copy!.id
		]);
		// The first wakes up again: it has lost the office, and claims nothing.
		expect(await claim(school.db, first, 'text', 10)).to.deep.equal([]);
	});

	it('tries a deferred copy again later, and gives up by rule with the reason', async () => {
		const me = identity(school.db);
		await me.beat();
		await pass(6);
		let tries = 0;
		for (
			let copies = await claim(school.db, me, 'email', 10);
			copies.length > 0;
			copies = await claim(school.db, me, 'email', 10)
		) {
			tries += 1;
			await settle(copies[0]!, { kind: 'deferred', detail: 'the mailbox is full' });
			const after = (await row(copies[0]!.id))!;
			if (after.state === 'failed') break;
			expect(await claim(school.db, me, 'email', 10)).to.deep.equal([]);
			await moveTo(school.db, after.due_at);
		}
		expect(tries).to.equal(10);
		const last = await school.db.one<{ detail: string }>(
			`SELECT detail FROM event WHERE kind = 'failed'`
		);
		expect(last!.detail).to.equal('given up after 10 tries: the mailbox is full');
	});

	it('does not count a try when the provider was not there', async () => {
		const me = identity(school.db);
		await me.beat();
		await pass(6);
		const [copy] = await claim(school.db, me, 'email', 10);
		await settle(copy!, { kind: 'unavailable', why: 'nothing answers' });
		expect(await row(copy!.id)).to.include({ attempts: 0, claimed_by: null, state: 'held' });
		expect(await claim(school.db, me, 'email', 10)).to.have.length(1);
	});

	it('marks an address that is at fault for everyone who has it, and leaves one that was only refused', async () => {
		const me = identity(school.db);
		await me.beat();
		await pass(6);
		const [mail] = await claim(school.db, me, 'email', 10);
		const [text] = await claim(school.db, me, 'text', 1);
		await settle(mail!, {
			kind: 'refused',
			detail: 'no',
			addressFault: 'the mailbox does not exist'
		});
		await settle(text!, { kind: 'refused', detail: 'no', addressFault: null });
		const failing = await school.db.all<{ person_id: number }>(
			'SELECT person_id FROM address WHERE failing IS NOT NULL ORDER BY person_id'
		);
		expect(failing.map((f) => f.person_id)).to.deep.equal([10, 11]);
	});

	it('calls a dispatch sent when nothing is left to leave', async () => {
		const me = identity(school.db);
		await me.beat();
		await pass(6);
		const state = async () =>
			(await school.db.one<{ state: string }>('SELECT state FROM dispatch'))!.state;
		await placeInbox(school.db, me);
		for (const way of ['email', 'text'] as const) {
			for (const copy of await claim(school.db, me, way, 10)) {
				expect(await state()).to.equal('scheduled');
				await settle(copy, { kind: 'accepted', detail: 'ok', providerRef: `ref-${copy.id}` });
			}
		}
		expect(await state()).to.equal('sent');
	});

	it('takes a receipt only when it knows the copy, keeps a repeat once, and does not take it back', async () => {
		const me = identity(school.db);
		await me.beat();
		await pass(6);
		const receipt = (stat: string) =>
			school.db.write((tx) =>
				takeTextReceipt(tx, `id:R1 sub:001 dlvrd:001 stat:${stat} err:000 text:`)
			);
		expect(await receipt('DELIVRD')).to.equal(false);
		const [copy] = await claim(school.db, me, 'text', 1);
		await settle(copy!, { kind: 'accepted', detail: 'ok', providerRef: 'R1' });
		expect(await receipt('ACCEPTD')).to.equal(true);
		expect((await row(copy!.id))!.state).to.equal('sent');
		expect(await receipt('DELIVRD')).to.equal(true);
		expect(await receipt('DELIVRD')).to.equal(true);
		expect((await row(copy!.id))!.state).to.equal('delivered');
		const n = await school.db.one<{ n: number }>(
			`SELECT count(*) AS n FROM event WHERE kind = 'delivered'`
		);
		expect(n!.n).to.equal(1);
	});

	it('takes a notification at its return address, and none at a forged one', async () => {
		const [{ id }] = (await school.db.all<{ id: number }>(
			`SELECT id FROM delivery WHERE way = 'email'`
		)) as [{ id: number }];
		const address = returnAddress(key, id, 'return.example');
		const notification = {
			ok: true as const,
			recipients: [
				{
					finalRecipient: 'home@harbormail.example',
					action: 'failed' as const,
					status: '5.1.1',
					text: 'the mailbox does not exist'
				}
			]
		};
		const take = (a: string) =>
			school.db.write((tx) => takeNotification(tx, key, { address: a, notification }));
		await take(address.replace(`r${id}.`, `r${id + 1}.`));
		await take(`r${id}.00000000000000000000@return.example`);
		expect((await row(id))!.state).to.equal('held');
		await take(address.toUpperCase());
		expect((await row(id))!.state).to.equal('failed');
	});
});

describe('grouped writes', () => {
	it('puts what comes in while one group is written into the next, and answers each', async () => {
		const sizes: number[] = [];
		const write = grouped<number, number>(async (items) => {
			sizes.push(items.length);
			await new Promise((r) => setTimeout(r, 5));
			return items.map((i) => i * 2);
		}, 4);
		expect(await Promise.all([1, 2, 3, 4, 5, 6, 7].map(write))).to.deep.equal([
			2, 4, 6, 8, 10, 12, 14
		]);
		expect(sizes).to.deep.equal([1, 4, 2]);
	});

	it('fails each item of a group that fails, and goes on with the next', async () => {
		let broken = true;
		const write = grouped<number, number>(async (items) => {
			if (broken) throw new Error('disk full');
			return items;
		});
		let why = '';
		await write(1).catch((e: Error) => (why = e.message));
		expect(why).to.equal('disk full');
		broken = false;
		expect(await write(2)).to.equal(2);
	});
});
