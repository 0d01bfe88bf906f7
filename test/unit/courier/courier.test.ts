import { expect } from 'chai';
import { claim, placeInbox, spare } from '../../../courier/claim';
import { audienceOf } from '../../../src/lib/core/audience/audience';
import type { Turn } from '../../../src/lib/core/plan/turns';
import { ownChanged } from '../../../src/lib/server/db/roster';
import { record } from '../../../src/lib/server/desk/track/record';
import type { MailAnswer, ReturnedMail } from '../../../src/lib/server/gateway/return-mail';
import { grouped } from '../../../courier/grouped';
import { identity } from '../../../courier/identity';
import { writeOutcomes } from '../../../courier/outcomes';
import { takeReturned } from '../../../courier/receipts';
import { takeTextReceipts } from '../../../courier/text-receipts';
import { strangers } from '../../../courier/strangers';
import { addressOf } from '../../named';
import { moveTo, now } from '../../../src/lib/server/clock';
import { schedule } from '../../../src/lib/server/desk/send/schedule';
import type { Outcome } from '../../../src/lib/server/gateway/outcome';
import { coordinator, sheetOf, testSchool, type TestSchool } from '../server/database';
import { evidenceText } from '../../../src/lib/core/track/evidence-words';
import type { Evidence } from '../../../src/lib/core/track/evidence';

const key = Buffer.alloc(32, 7);
const nothing = { words: '', machine: '' };

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
		school.db.one<{
			state: string;
			attempts: number;
			claimed_by: string | null;
			due_at: number;
			parts: number | null;
		}>('SELECT state, attempts, claimed_by, due_at, parts FROM delivery WHERE id = $id', { id });
	const settle = async (copy: Awaited<ReturnType<typeof claim>>[number], outcome: Outcome) => {
		const at = await now(school.db);
		return school.db.write((tx) => writeOutcomes(tx, [{ copy, outcome, at }]));
	};

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
			await settle(copies[0]!, {
				kind: 'deferred',
				detail: 'the mailbox is full',
				said: '452 4.2.2'
			});
			const after = (await row(copies[0]!.id))!;
			if (after.state === 'failed') break;
			expect(await claim(school.db, me, 'email', 10)).to.deep.equal([]);
			await moveTo(school.db, after.due_at);
		}
		expect(tries).to.equal(10);
		const last = await school.db.one<Evidence>(
			`SELECT detail, said, tries, sign FROM event WHERE kind = 'failed'`
		);
		expect(evidenceText(last!)).to.equal(
			'given up after 10 tries: the mailbox is full (452 4.2.2)'
		);
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
		const receipt = async (stat: string) => {
			const text = `id:R1 sub:001 dlvrd:001 stat:${stat} err:000 text:`;
			return (await school.db.write((tx) => takeTextReceipts(tx, [{ text }])))[0];
		};
		expect(await receipt('DELIVRD')).to.equal(false);
		const [copy] = await claim(school.db, me, 'text', 1);
		await settle(copy!, { kind: 'accepted', detail: 'ok', providerRef: 'R1', parts: 3 });
		expect(await receipt('ACCEPTD')).to.equal(true);
		// Of how many parts it was is kept with it: what it cost is counted by that.
		expect(await row(copy!.id)).to.include({ state: 'sent', parts: 3 });
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
		const address = await addressOf(school.db, key, 'return', id);
		const notification = {
			ok: true as const,
			recipients: [
				{
					finalRecipient: 'home@harbormail.example',
					action: 'failed' as const,
					originalRecipient: null,
					status: '5.1.1',
					diagnostic: '',
					text: 'the mailbox does not exist'
				}
			]
		};
		const take = (a: string) =>
			school.db.write((tx) =>
				takeReturned(tx, key, [
					{ address: a, mail: { kind: 'notification', notification }, asItCame: nothing }
				])
			);
		await take(address.replace(`r${id}.`, `r${id + 1}.`));
		await take(`r${id}.00000000000000000000@return.example`);
		expect((await row(id))!.state).to.equal('held');
		await take(address.toUpperCase());
		expect((await row(id))!.state).to.equal('failed');
	});
});

describe('what comes in about a copy', () => {
	let school: TestSchool;
	let mail: number;
	beforeEach(async () => {
		school = await testSchool();
		await schedule(school.db, key, coordinator, sheetOf({ subject: 'Boats', holdMinutes: 0 }), 5);
		const me = identity(school.db);
		await me.beat();
		const [copy] = await claim(school.db, me, 'email', 10);
		mail = copy!.id;
		const at = await now(school.db);
		await school.db.write((tx) =>
			writeOutcomes(tx, [{ copy: copy!, outcome: { kind: 'accepted', detail: 'ok' }, at }])
		);
		await moveTo(school.db, (await now(school.db)) + 600_000);
	});
	afterEach(() => school.close());
	const take = (address: string, came: ReturnedMail) =>
		school.db.write((tx) => takeReturned(tx, key, [{ address, mail: came, asItCame: nothing }]));
	const answersTo = (id: number) => addressOf(school.db, key, 'answer', id);
	const returnsTo = (id: number) => addressOf(school.db, key, 'return', id);
	const state = async () =>
		(await school.db.one<{ state: string; strength: string }>(
			'SELECT state, strength FROM delivery WHERE id = $id',
			{ id: mail }
		))!;
	const answer = (over: Partial<MailAnswer> = {}): ReturnedMail => ({
		kind: 'answer',
		answer: {
			fromName: 'Delfina Amaro',
			fromAddress: 'HOME@harbormail.example',
			subject: 'Re: Boats',
			text: 'We know.',
			...{ whole: '', files: [], messageId: null },
			answersTo: [],
			quotes: true,
			messageKey: '<m1@x.example>',
			...over
		}
	});

	it('keeps an answer once, as strong evidence, and passes it on to whom the dispatch names', async () => {
		await take(await answersTo(mail), answer());
		await take(await answersTo(mail), answer());
		expect(await state()).to.deep.equal({ state: 'answered', strength: 'strong' });
		expect(await school.db.all('SELECT text FROM answer')).to.deep.equal([{ text: 'We know.' }]);
		const notices = await school.db.all<{ personId: number; about: number; text: string }>(
			'SELECT person_id AS personId, conversation_id AS about, text FROM notice'
		);
		expect(notices).to.have.length(1);
		expect(notices[0]).to.include({ personId: 90, about: 1 });
		expect(notices[0]!.text).not.to.contain('harbormail');
		expect(notices[0]!.text).to.contain('We know.').and.contain('for Ana Amaro, Rui Amaro');
	});

	it('says when an answer came from an address that its reader does not have on file', async () => {
		await take(await answersTo(mail), answer({ fromAddress: 'else@where.example' }));
		expect(await state()).to.deep.equal({ state: 'answered', strength: 'fair' });
		const event = await school.db.one<{ detail: string }>(
			`SELECT detail FROM event WHERE kind = 'answered'`
		);
		expect(event!.detail).to.contain('from another address (else@where.example)');
	});

	it('takes nothing at an address that does not fit the key, or for a copy that is not there', async () => {
		await take((await answersTo(mail)).replace(`a${mail}.`, `a${mail + 1}.`), answer());
		await take((await answersTo(mail)).replace(/^a/, 's'), answer());
		await take(await answersTo(999), answer());
		expect(await state()).to.deep.equal({ state: 'sent', strength: 'none' });
		expect(
			await school.db.all('SELECT 1 FROM answer UNION ALL SELECT 1 FROM notice')
		).to.deep.equal([]);
	});

	it('takes no absence note for an answer, and keeps its words', async () => {
		await take(await answersTo(mail), {
			kind: 'automatic',
			why: 'an automatic answer',
			words: 'Away'
		});
		expect((await state()).state).to.equal('sent');
		const event = await school.db.one<{ detail: string }>(
			`SELECT detail FROM event WHERE kind = 'noted'`
		);
		expect(event!.detail).to.equal('an automatic answer came back, which settles nothing: “Away”');
	});

	it('believes a read receipt that a reader sent, and not one that a mail program sent by itself', async () => {
		const receipt = (byHand: boolean): ReturnedMail => ({
			kind: 'read receipt',
			disposition: {
				finalRecipient: 'home@harbormail.example',
				originalRecipient: null,
				type: 'displayed',
				byHand,
				modifiers: []
			}
		});
		await take(await returnsTo(mail), receipt(false));
		expect(await state()).to.deep.equal({ state: 'delivered', strength: 'weak' });
		await take(await returnsTo(mail), receipt(true));
		expect(await state()).to.deep.equal({ state: 'read', strength: 'strong' });
	});

	it('takes a receipt for nobody’s text again for a while, then lets it go and counts it', () => {
		let time = 0;
		const unknown = strangers(() => time);
		const receipt = { text: 'id:X9 stat:DELIVRD err:000' };
		expect(unknown.longEnough(receipt)).to.equal(false);
		time = 29_999;
		expect(unknown.longEnough(receipt)).to.equal(false);
		time = 30_000;
		expect(unknown.longEnough(receipt)).to.equal(true);
		expect(unknown.count).to.equal(1);
	});
});

describe('ways in turn', () => {
	let school: TestSchool;
	const turns: Turn[] = [{ ways: ['text'], after: { kind: 'minutes', minutes: 60 } }];
	beforeEach(async () => {
		school = await testSchool();
	});
	afterEach(() => school.close());
	const send = async () => {
		const sheet = sheetOf({ turns, holdMinutes: 0, ways: ['email', 'text', 'inbox'] });
		const sent = await schedule(school.db, key, coordinator, sheet, 5);
		if (!sent.ok) throw new Error(sent.checks[0]!.text);
		const me = identity(school.db);
		await me.beat();
		await placeInbox(school.db, me);
		return me;
	};
	const pass = async (minutes: number) =>
		moveTo(school.db, (await now(school.db)) + minutes * 60_000);
	const texts = () =>
		school.db.all<{ id: number; person: number; step: number; state: string }>(
			`SELECT id, person_id AS person, step, state FROM delivery WHERE way = 'text' ORDER BY person_id`
		);
	const reads = (person: number, way: string) =>
		school.db.write(async (tx) => {
			const copy = await tx.one<{ id: number }>(
				'SELECT id FROM delivery WHERE person_id = $person AND way = $way',
				{ person, way }
			);
			const at = await now(tx);
			await record(tx, [
				{ deliveryId: copy!.id, at, kind: 'acknowledged', source: 'inbox', detail: 'opened' }
			]);
		});

	it('keep the later way for those who have not read when its turn comes', async () => {
		const me = await send();
		expect(await claim(school.db, me, 'text', 10)).to.deep.equal([]);
		await pass(30);
		await reads(10, 'inbox');
		await pass(31);
		expect(await spare(school.db, me)).to.equal(1);
		const claimed = await claim(school.db, me, 'text', 10);
		expect(claimed.map((c) => c.address)).to.deep.equal(['+12075550102']);
		expect((await texts()).map((t) => [t.person, t.step, t.state])).to.deep.equal([
			[10, 1, 'spared'],
			[12, 1, 'planned']
		]);
		const said = await school.db.one<{ detail: string }>(
			`SELECT detail FROM event WHERE kind = 'spared'`
		);
		expect(said!.detail).to.contain('not needed');
	});

	it('are decided at the moment of the step: reading before its claim is enough', async () => {
		const me = await send();
		await pass(61);
		await reads(12, 'inbox');
		expect((await claim(school.db, me, 'text', 10)).map((c) => c.address)).to.deep.equal([
			'+12075550101'
		]);
	});

	it('use the later way at once for whoever has no earlier one', async () => {
		// Bao Pham has no email address: by email first, his text need not wait.
		const sheet = sheetOf({ turns, holdMinutes: 0, ways: ['email', 'text'] });
		await schedule(school.db, key, coordinator, sheet, 3);
		expect((await texts()).map((t) => [t.person, t.step])).to.deep.equal([
			[10, 1],
			[12, 0]
		]);
	});

	it('do not let a copy go at a shared address while one of its readers has not read', async () => {
		// Both guardians read at one number.
		await school.db.run(
			`INSERT INTO address (person_id, way, value, consent) VALUES (11, 'text', '+12075550101', 'in')`
		);
		await school.db.write((tx) => ownChanged(tx, [11]));
		const me = await send();
		await pass(10);
		await reads(10, 'inbox');
		await pass(60);
		expect(await spare(school.db, me)).to.equal(0);
		expect(await claim(school.db, me, 'text', 10)).to.have.length(2);
	});

	it('close the dispatch when the last copy is not needed', async () => {
		const sheet = sheetOf({
			turns,
			holdMinutes: 0,
			ways: ['inbox', 'text'],
			audience: audienceOf([101])
		});
		await schedule(school.db, key, coordinator, sheet, 2);
		const courier = identity(school.db);
		await courier.beat();
		await placeInbox(school.db, courier);
		await reads(12, 'inbox');
		await pass(61);
		await spare(school.db, courier);
		const row = await school.db.one<{ state: string }>('SELECT state FROM dispatch');
		expect(row!.state).to.equal('sent');
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
