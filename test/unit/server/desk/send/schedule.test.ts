import { expect } from 'chai';
import { audienceOf } from '../../../../../src/lib/core/audience/audience';
import { tokenOf } from '../../../../named';
import { moveTo, now, setClock } from '../../../../../src/lib/server/clock';
import { ownChanged, rosterChanged } from '../../../../../src/lib/server/db/roster';
import type { Db } from '../../../../../src/lib/server/db/open';
import { addClosure } from '../../../../../src/lib/server/desk/calendar/closures';
import { callBack } from '../../../../../src/lib/server/desk/send/call-back';
import { readDraft } from '../../../../../src/lib/server/desk/sheet/draft';
import { inboxOf } from '../../../../../src/lib/server/desk/family/family';
import { letterHappened } from '../../../../../src/lib/server/desk/family/letter-happened';
import { linkFollowed } from '../../../../../src/lib/server/desk/family/requested';
import { dispatchReach } from '../../../../../src/lib/server/desk/reach/reach';
import { record } from '../../../../../src/lib/server/desk/track/record';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { sheetSchema } from '../../../../../src/lib/server/desk/sheet/sheet';
import { landing, namesBehind } from '../../../../../src/lib/server/desk/plan/tally';
import { coordinator, sheetOf, teacher, testSchool, type TestSchool } from '../../database';
import { openLink } from '../../../../../src/lib/server/access/private-link';

const key = Buffer.alloc(32, 7);
const everything = { way: 'all', state: 'all', section: 0, search: '', page: 1 } as const;
const sheet = sheetOf;

const browser = { method: 'POST', agent: 'Mozilla/5.0', purpose: '', key: 'somewhere' };

describe('sending a sheet', () => {
	let school: TestSchool;
	beforeEach(async () => (school = await testSchool()));
	afterEach(() => school.close());
	const count = async (sql: string) =>
		(await school.db.one<{ n: number }>(`SELECT count(*) AS n FROM ${sql}`))!.n;

	it('writes down exactly what the tally said', async () => {
		const s = sheet();
		const { tally } = await landing(school.db, coordinator, s);
		expect(tally).to.include({ students: 3, people: 3, copies: 5, merged: 1, leftOut: 0 });
		const result = await schedule(school.db, key, coordinator, s, tally.copies);
		expect(result.ok).to.equal(true);
		expect(await count('delivery')).to.equal(tally.copies);
		for (const way of ['email', 'text', 'inbox'] as const) {
			expect(await count(`delivery WHERE way = '${way}'`)).to.equal(tally.byWay[way]);
		}
		expect(await count(`delivery WHERE state = 'held'`)).to.equal(5);
		expect(await count('dispatch_student')).to.equal(3);
		expect(await count('delivery_also')).to.equal(1);
	});

	it('is one dispatch however often the same sheet is sent', async () => {
		const s = sheet();
		const first = await schedule(school.db, key, coordinator, s, 5);
		const all = await Promise.all([1, 2, 3].map(() => schedule(school.db, key, coordinator, s, 5)));
		expect(all).to.deep.equal([first, first, first]);
		expect(await count('dispatch')).to.equal(1);
		expect(await count('delivery')).to.equal(5);
	});

	it('sends nothing when the roster has changed since the button was read, and says the new number', async () => {
		await school.db.write(async (tx) => {
			await tx.run(
				`UPDATE address SET failing = 'the mailbox does not exist' WHERE value = 'home@harbormail.example'`
			);
			await rosterChanged(tx);
		});
		const result = await schedule(school.db, key, coordinator, sheet(), 5);
		expect(result.ok).to.equal(false);
		expect(!result.ok && result.checks[0]!.text).to.equal(
			'The roster has changed while you wrote: 4 copies now, not 5. Look again, then send.'
		);
		expect(await count('dispatch')).to.equal(0);
	});

	describe('when something changes between its plan and its being written down', () => {
		/** The school's database, in which something is done each time before the next transaction begins. */
		const before = (change: () => Promise<void>, times = 1): Db => ({
			...school.db,
			write: async (work) => {
				if (times > 0) {
					times -= 1;
					await change();
				}
				return school.db.write(work);
			}
		});
		const sent = (db: Db, copies: number) => schedule(db, key, coordinator, sheet(), copies);
		const stop = (personId: number) => () =>
			school.db.write(async (tx) => {
				await tx.run(
					`UPDATE address SET consent = 'out' WHERE person_id = ${personId} AND way = 'text'`
				);
				await ownChanged(tx, [personId]);
			});

		it('sends nothing to whoever has asked for no more meanwhile: the new number is said', async () => {
			const result = await sent(before(stop(12)), 5);
			expect(!result.ok && result.checks[0]!.text).to.equal(
				'The roster has changed while you wrote: 4 copies now, not 5. Look again, then send.'
			);
			expect(await count('delivery')).to.equal(0);
		});

		it('goes on where only the address of somebody else has changed', async () => {
			let planned = 0;
			const db = before(async () => {
				planned += 1;
				await stop(91)();
			});
			expect((await sent(db, 5)).ok).to.equal(true);
			expect([planned, await count('delivery')]).to.deep.equal([1, 5]);
		});

		it('is planned anew where a day has become one without school', async () => {
			const day = {
				name: 'Harbor day',
				startsOn: '2027-03-15',
				lastOn: '2027-03-15',
				schoolId: null
			};
			let turns = 0;
			const result = await sent(
				before(async () => {
					turns += 1;
					if (turns === 1) await addClosure(school.db, coordinator, day);
				}, 2),
				5
			);
			expect([result.ok, turns]).to.deep.equal([true, 2]);
		});

		it('leaves with a hold that is some seconds shorter where making it ready takes longer each time', async () => {
			const { db } = school;
			// A machine that does much else: ten seconds pass before it can be written down.
			const slow = before(async () => setClock(db, (await now(db)) + 10_000), 99);
			expect((await sent(slow, 5)).ok).to.equal(true);
			const left = await db.one<{ hold: number }>(
				'SELECT leaves_at - scheduled_at AS hold FROM dispatch'
			);
			expect(left!.hold).to.be.within(5 * 60_000 - 11_000, 5 * 60_000 - 9_000);
		});

		it('says so, and sends nothing, where it keeps changing, or where a right has gone', async () => {
			const { db } = school;
			const restless = await sent(
				before(() => db.write((tx) => rosterChanged(tx)), 99),
				5
			);
			expect(!restless.ok && restless.checks[0]!.text).to.match(/keeps changing/);
			const robbed = await sent(
				before(() => db.run(`UPDATE role SET role = 'teacher' WHERE person_id = 90`)),
				5
			);
			expect(!robbed.ok && robbed.checks[0]!.text).to.match(/What you may do has changed/);
			expect([await count('dispatch'), await count('delivery')]).to.deep.equal([0, 0]);
		});
	});

	it("refuses another teacher's section and shows none of its people", async () => {
		const { tally, checks } = await landing(school.db, teacher, sheet());
		expect(tally.students).to.equal(2);
		expect(checks.find((c) => c.level === 'block')!.text).to.match(
			/^You may not write to Drama 7-A\./
		);
		expect(
			JSON.stringify(await namesBehind(school.db, teacher, sheet({ ways: ['text'] }), 'people'))
		).not.to.contain('Bao');
		const result = await schedule(school.db, key, teacher, sheet(), 5);
		expect(result.ok).to.equal(false);
		expect(await count('dispatch')).to.equal(0);
	});

	it("does not let one person send another's sheet", async () => {
		const s = sheet({
			audience: audienceOf([100])
		});
		await schedule(school.db, key, coordinator, s, 3);
		const result = await schedule(school.db, key, teacher, s, 3);
		expect(!result.ok && result.checks[0]!.text).to.match(/^This sheet belongs to someone else/);
	});

	it('is called back within its hold, unchanged, and leaves nothing behind', async () => {
		const s = sheet();
		const sent = await schedule(school.db, key, coordinator, s, 5);
		const id = sent.ok ? sent.dispatchId : 0;
		expect(await callBack(school.db, teacher, id)).to.deep.equal({
			ok: false,
			why: 'There is no such dispatch of yours.'
		});
		expect(await callBack(school.db, coordinator, id)).to.deep.equal({ ok: true });
		const { savedAt, ...draft } = (await readDraft(school.db, coordinator, id))!;
		expect(draft).to.deep.equal(s);
		expect(savedAt).to.be.above(0);
		for (const table of ['delivery', 'delivery_student', 'dispatch_student', 'event', 'left_out']) {
			expect(await count(table), table).to.equal(0);
		}
		expect((await schedule(school.db, key, coordinator, s, 5)).ok).to.equal(true);
	});

	it('is not called back once its hold is over or a copy has been claimed', async () => {
		const sent = await schedule(school.db, key, coordinator, sheet(), 5);
		const id = sent.ok ? sent.dispatchId : 0;
		await school.db.run(`UPDATE delivery SET claimed_by = 'x' WHERE id = 1`);
		expect(await callBack(school.db, coordinator, id)).to.include({ ok: false });
		await school.db.run(`UPDATE delivery SET claimed_by = NULL`);
		await moveTo(school.db, (await now(school.db)) + 6 * 60_000);
		expect(await callBack(school.db, coordinator, id)).to.deep.equal({
			ok: false,
			why: '0 copies have left. It can no longer be called back; what has not left can be stopped.'
		});
	});

	it('takes no sheet that is none', () => {
		for (const bad of [
			null,
			{},
			sheet({ ways: ['pigeon'] as never }),
			{ ...sheet(), sheetKey: 'x' },
			{
				...sheet(),
				wording: { language: 'en', words: { subject: 'x', body: '<p>x</p>', own: {} } }
			}
		]) {
			expect(sheetSchema.safeParse(bad).success).to.equal(false);
		}
	});
});

describe("the family's side", () => {
	let school: TestSchool;
	let id: number;
	before(async () => {
		school = await testSchool();
		const sent = await schedule(school.db, key, coordinator, sheet({ holdMinutes: 0 }), 5);
		id = sent.ok ? sent.dispatchId : 0;
		await school.db.write(async (tx) => {
			const rows = await tx.all<{ id: number }>('SELECT id FROM delivery');
			await record(
				tx,
				rows.map((r) => ({
					deliveryId: r.id,
					at: 1,
					kind: 'delivered',
					source: 'courier',
					detail: 'there'
				}))
			);
		});
	});
	after(() => school.close());
	const delivery = async (person: number, way: string) =>
		(await school.db.one<{ id: number; state: string }>(
			`SELECT id, state FROM delivery WHERE person_id = ${person} AND way = '${way}'`
		))!;

	it('opens nothing for a wrong link, and says when one has ended', async () => {
		expect(await openLink(school.db, 'AAAAAAAAAAAAAAAAAAAAAA')).to.deep.equal({
			ok: false,
			why: 'unknown'
		});
		const { id: copy } = await delivery(10, 'text');
		const token = await tokenOf(school.db, key, copy);
		expect((await openLink(school.db, token)).ok).to.equal(true);
		const time = await now(school.db);
		await setClock(school.db, time + 181 * 86_400_000);
		expect(await openLink(school.db, token)).to.deep.equal({ ok: false, why: 'ended' });
		await setClock(school.db, time);
	});

	it('stores no token, only its hash', async () => {
		const { id: copy } = await delivery(10, 'text');
		const row = await school.db.one<object>(`SELECT * FROM delivery WHERE id = ${copy}`);
		expect(JSON.stringify(row)).not.to.contain(await tokenOf(school.db, key, copy));
	});

	it('covers both children when their mother taps, through the copy she came by and the inbox', async () => {
		const { id: copy } = await delivery(10, 'text');
		const opened = await openLink(school.db, await tokenOf(school.db, key, copy));
		if (!opened.ok) throw new Error('the link does not open');
		const visitor = { method: 'GET', agent: 'Mozilla/5.0', purpose: '', key: 'mother' };
		await linkFollowed(school.db, copy, visitor);
		await linkFollowed(school.db, copy, visitor);
		await letterHappened(school.db, opened, id, 'acknowledged', browser);
		await letterHappened(school.db, opened, id, 'acknowledged', browser);
		const events = await school.db.all<{ kind: string }>(
			`SELECT kind FROM event WHERE delivery_id = ${copy} ORDER BY id`
		);
		expect(events.map((e) => e.kind)).to.deep.equal([
			'scheduled',
			'delivered',
			'link-followed',
			'acknowledged'
		]);
		expect((await delivery(10, 'inbox')).state).to.equal('read');
		expect((await delivery(10, 'email')).state).to.equal('delivered');
		const reach = (await dispatchReach(school.db, coordinator, id, everything))!;
		expect(reach.coverage.sentence).to.equal('2 of 3 students covered, 1 waiting');
		expect(reach.coverage.field.map((f) => [f.section, f.covered])).to.deep.equal([
			['Drama 7-A', 0],
			['Mathematics 7-A', 2]
		]);
	});

	it('shows a letter to the other who reads at the shared mailbox, and names only their own children', async () => {
		const inbox = await inboxOf(school.db, 11, '/f/x');
		expect(inbox.letters.map((l) => [l.subject, l.about])).to.deep.equal([
			['Boats', 'For Ana and Rui']
		]);
		expect((await inboxOf(school.db, 12, '/f/x')).letters[0]!.about).to.equal('For Linh');
		expect((await inboxOf(school.db, 91, '/f/x')).letters).to.deep.equal([]);
	});

	it("takes no tap on somebody else's letter", async () => {
		expect(
			await letterHappened(
				school.db,
				{ personId: 91, deliveryId: null },
				id,
				'acknowledged',
				browser
			)
		).to.equal(null);
	});

	it('adds up: by way, by state and in the list', async () => {
		const all = (await dispatchReach(school.db, coordinator, id, everything))!;
		expect(all.copies.byWay.reduce((sum, w) => sum + w.copies, 0)).to.equal(all.copies.found);
		const sums = await Promise.all(
			(['read', 'delivered', 'failed', 'sent', 'held', 'planned', 'answered'] as const).map(
				async (state) =>
					(await dispatchReach(school.db, coordinator, id, { ...everything, state }))!.copies.found
			)
		);
		expect(sums.reduce((a, b) => a + b)).to.equal(all.copies.found);
		expect(
			(await dispatchReach(school.db, coordinator, id, {
				...everything,
				state: 'not-covered'
			}))!.copies.deliveries.map((d) => d.person)
		).to.deep.equal(['Bao Pham', 'Bao Pham']);
	});

	it('is not shown to a teacher who did not send it', async () => {
		expect(await dispatchReach(school.db, teacher, id, everything)).to.equal(null);
	});
});
