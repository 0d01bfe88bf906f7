import { expect } from 'chai';
import { claim } from '../../../courier/claim';
import { handovers } from '../../../courier/digests';
import { identity, type Identity } from '../../../courier/identity';
import { writeOutcomes } from '../../../courier/outcomes';
import { takeReturned } from '../../../courier/receipts';
import { writingOut } from '../../../courier/writing-out';
import { addressFor } from '../../../src/lib/server/access/tokens';
import { moveTo, now } from '../../../src/lib/server/clock';
import { localDays } from '../../../src/lib/core/time/zone';
import { loadWindow } from '../../../src/lib/server/desk/load/load';
import { familiesOn } from '../../../src/lib/server/desk/load/load-families';
import type { Choices } from '../../../src/lib/server/desk/family/choices';
import { moveAnswer } from '../../../src/lib/server/desk/replies/move-answer';
import { schedule } from '../../../src/lib/server/desk/send/schedule';
import type { Sheet } from '../../../src/lib/server/desk/sheet/sheet';
import type { Letter } from '../../../src/lib/server/gateway/mail-letter';
import type { Outcome } from '../../../src/lib/server/gateway/outcome';
import type { ReturnedMail } from '../../../src/lib/server/gateway/return-mail';
import type { Settings } from '../../../src/lib/server/settings';
import { usualTiming } from '../../../src/lib/core/time/timing';
import { choose as chooseFor } from '../server/desk/family/choose';
import { coordinator, sheetOf, testSchoolWithOffice, type TestSchool } from '../server/database';

const key = Buffer.alloc(32, 7);
const taken: Outcome = { kind: 'accepted', detail: 'taken' };
const domain = 'return.example';

describe('the letters of a day in one', () => {
	let school: TestSchool;
	let me: Identity;
	let letters: Letter[];
	beforeEach(async () => {
		school = await testSchoolWithOffice();
		letters = [];
		me = identity(school.db);
		await me.beat();
		// Delfina (10) and Rui (11) read at one address: each has to want it.
		for (const id of [10, 11]) await choose(id, { digest: '18:00' });
		await school.db.run(`INSERT INTO household (id, name) VALUES (1, 'Amaro')`);
		await school.db.run(
			`INSERT INTO household_member (household_id, person_id) VALUES (1, 10), (1, 11)`
		);
	});
	afterEach(() => school.close());

	const choose = (personId: number, over: Partial<Choices>) => chooseFor(school.db, personId, over);
	async function send(subject: string, over: Partial<Sheet> = {}): Promise<number> {
		const sheet = sheetOf({ holdMinutes: 0, ways: ['email'], subject, ...over });
		const first = await schedule(school.db, key, coordinator, sheet, 1);
		const sent = first.ok
			? first
			: await schedule(school.db, key, coordinator, sheet, first.tally.copies);
		if (!sent.ok) throw new Error(JSON.stringify(sent.checks));
		return sent.dispatchId!;
	}
	/** Moves on to a local time of March 9, 2027, and hands over what is due; without an outcome it stays in the courier's hands. */
	async function leaveAt(utc: string, outcome: Outcome | null = taken): Promise<number> {
		await moveTo(school.db, Date.parse(utc));
		const settings = {
			...{ publicUrl: 'https://x.example', returnDomain: domain },
			dataFolder: school.folder
		} as Settings;
		const out = writingOut(school.db, key, settings, {
			mail: { send: (letter: Letter) => (letters.push(letter), Promise.resolve(taken)) },
			text: {}
		} as unknown as Parameters<typeof writingOut>[3]);
		const copies = await claim(school.db, me, 'email', 1);
		const hand = await out.emails(copies);
		for (const handover of handovers(copies)) await hand(handover);
		const at = Math.round(await now(school.db));
		if (outcome)
			await school.db.write((tx) =>
				writeOutcomes(
					tx,
					copies.map((copy) => ({ copy, outcome, at }))
				)
			);
		return copies.length;
	}
	const rows = () =>
		school.db.all<{
			dispatch: number;
			due: number;
			state: string;
			digest: number | null;
			within: number;
		}>(
			`SELECT dispatch_id AS dispatch, due_at AS due, state, digest_id AS digest, in_digest AS within
			FROM delivery WHERE way = 'email' ORDER BY id`
		);
	const came = (address: string, mail: ReturnedMail) =>
		school.db.write((tx) =>
			takeReturned(tx, key, [{ address, mail, asItCame: { words: 'w', machine: 'm' } }])
		);
	const digestAddress = async (mailbox: 'digest' | 'digest-answer') => {
		const digest = (await school.db.one<{ id: number; nonce: string }>(
			'SELECT id, nonce FROM digest'
		))!;
		return addressFor(key, mailbox, digest, domain);
	};
	const sixPm = Date.parse('2027-03-09T23:00:00Z');

	it('leaves at the time that was chosen, whole, each letter with its own link, as one mail and copy by copy in the books', async () => {
		const [boats, lunch] = [await send('Boats'), await send('Lunch', { kind: 'announcement' })];
		expect((await rows()).map((r) => [r.due, r.within])).to.deep.equal([
			[sixPm, 1],
			[sixPm, 1]
		]);
		expect(await leaveAt('2027-03-09T22:59:59Z')).to.equal(0);
		expect(await leaveAt('2027-03-09T23:00:00Z')).to.equal(2);
		const [letter] = letters;
		expect(letters).to.have.length(1);
		expect(letter).to.deep.include({
			// In its reader's language, from the district: several people write in it.
			subject: 'As suas cartas de Brackwater Isles',
			returnAddress: await digestAddress('digest'),
			replyTo: { name: 'Brackwater Isles', address: await digestAddress('digest-answer') },
			thread: null
		});
		expect(letter!.html.match(/<h2/g)).to.have.length(2);
		for (const words of ['Boats', 'Lunch', '/choices']) {
			expect(letter!.html).to.contain(words);
			expect(letter!.text).to.contain(words);
		}
		expect(new Set(letter!.text.match(/https:\/\/x\.example\/f\/[\w-]+$/gm))).to.have.property(
			'size',
			2
		);
		expect((await rows()).map((r) => [r.dispatch, r.state, r.digest])).to.deep.equal([
			[boats, 'sent', 1],
			[lunch, 'sent', 1]
		]);
		expect(
			await school.db.one(`SELECT detail FROM event WHERE kind = 'accepted' ORDER BY id DESC`)
		).to.deep.equal({ detail: 'taken, in its reader’s daily digest' });
		// As one in the family load, and named as such.
		const { load } = await loadWindow(school.db, localDays('2027-03-09', 1, 'America/New_York'));
		expect([...load.messages[0]!]).to.deep.equal([1]);
		const { families } = await familiesOn(school.db, coordinator, '2027-03-09');
		expect(families[0]!.messages.map((m) => m.digest)).to.deep.equal([true, true]);
	});

	it('one letter alone is that letter; what is urgent, ends before, or is only for one of two at an address, comes at once', async () => {
		const at = (await now(school.db)) + 3_600_000;
		await send('Alone');
		await send('Storm', { timing: { ...usualTiming, urgent: true } });
		await send('Today', {
			timing: { ...usualTiming, ends: { kind: 'at', at: '2027-03-09T17:59' } }
		});
		expect((await rows()).map((r) => [r.within, r.due > at])).to.deep.equal([
			[1, true],
			[0, false],
			[0, false]
		]);
		while (await leaveAt('2027-03-09T16:00:00Z'));
		expect(letters).to.have.length(2);
		await leaveAt('2027-03-09T23:00:00Z');
		expect(letters.map((l) => l.subject).sort()).to.deep.equal(['Alone', 'Storm', 'Today']);
		expect((await rows()).every((r) => r.digest === null)).to.equal(true);
	});

	it('is planned, not held, once it waits for the digest: the hold is over long before', async () => {
		await choose(11, { digest: '' });
		await send('Boats', { holdMinutes: 5 });
		expect((await rows())[0]).to.include({ state: 'held', within: 0 });
		await choose(11, { digest: '18:00' });
		expect((await rows())[0]).to.include({ state: 'planned', within: 1 });
		await send('Lunch', { holdMinutes: 5 });
		expect((await rows())[1]).to.include({ state: 'planned', within: 1 });
	});

	it('holds for what waits when it is chosen, changed and given up, and says so on the copy', async () => {
		await send('Boats');
		await choose(10, { digest: '19:30' });
		expect((await rows())[0]).to.include({ due: sixPm + 90 * 60_000, within: 1 });
		await choose(11, { digest: '' });
		expect((await rows())[0]).to.include({ within: 0 });
		expect((await rows())[0]!.due).to.be.below(sixPm - 3_600_000);
		await choose(11, { digest: '07:00' });
		expect((await rows())[0]).to.include({ due: sixPm + 90 * 60_000, within: 1 });
		const said = await school.db.all<{ detail: string }>(
			`SELECT detail FROM event WHERE kind = 'noted' ORDER BY id`
		);
		expect(said.map((s) => s.detail.replace(/.*: /, ''))).to.deep.equal([
			'it leaves in their daily digest',
			'it leaves sooner',
			'it leaves in their daily digest'
		]);
		const { last } = (await school.db.one<{ last: number }>(
			'SELECT last_due AS last FROM dispatch'
		))!;
		expect(last).to.equal(sixPm + 90 * 60_000);
	});

	it('tried again it is the same letter, whatever has come since; what was called back is not in it', async () => {
		const [boats] = [await send('Boats'), await send('Lunch'), await send('Tea')];
		await leaveAt('2027-03-09T23:00:00Z', { kind: 'unanswered', why: 'the line broke' });
		await moveTo(school.db, sixPm + 60_000);
		await school.db.run(`UPDATE delivery SET due_at = $at`, { at: sixPm + 60_000 });
		await school.db.run(`UPDATE delivery SET state = 'failed' WHERE dispatch_id = $boats`, {
			boats
		});
		await school.db.run(
			`INSERT INTO delivery (dispatch_id, person_id, way, address, state, state_at, due_at, in_digest)
			SELECT dispatch_id, person_id, way, address, 'planned', state_at, due_at, 1 FROM delivery WHERE dispatch_id = $boats`,
			{ boats }
		);
		expect(await leaveAt('2027-03-09T23:05:00Z')).to.equal(2);
		const [first, again] = letters;
		expect(again!.messageId).to.equal(first!.messageId);
		expect(again!.html).to.contain('Tea').and.not.contain('Boats');
		// What has come since is a letter of its own.
		expect(await leaveAt('2027-03-09T23:05:01Z')).to.equal(1);
		expect(letters[2]!.messageId).to.not.equal(first!.messageId);
	});

	it('holds no more than mailboxes take: what has large files comes in another, or by itself', async () => {
		const subjects = ['Boats', 'Lunch', 'Tea', 'Coats'];
		const ids = [];
		for (const subject of subjects) ids.push(await send(subject));
		// Four megabytes with each of the first three.
		await school.db.run(
			`INSERT INTO file (id, name, type, bytes, hash, owner_id, made_at) VALUES (1, 'a.pdf', 'application/pdf', 4000000, 'h', 90, 0)`
		);
		for (const id of ids.slice(0, 3))
			await school.db.run('INSERT INTO dispatch_file (dispatch_id, file_id) VALUES ($id, 1)', {
				id
			});
		expect(await leaveAt('2027-03-09T23:00:00Z')).to.equal(4);
		expect(letters.map((l) => l.html.match(/<h2/g)?.length ?? 1)).to.deep.equal([1, 1, 2]);
		expect((await rows()).map((r) => r.digest)).to.deep.equal([null, null, 1, 1]);
	});

	it('of a mailbox that many write to holds thirty letters at most', async () => {
		const boats = await send('Boats');
		await school.db.run(
			`WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 31)
			INSERT INTO delivery (dispatch_id, person_id, way, address, state, state_at, due_at, in_digest)
			SELECT dispatch_id, person_id, way, address, state, state_at, due_at, 1 FROM delivery, n WHERE dispatch_id = ${boats} AND way = 'email'`
		);
		expect(await leaveAt('2027-03-09T23:00:00Z')).to.equal(32);
		expect(letters.map((l) => l.html.match(/<h2/g)!.length)).to.deep.equal([30, 2]);
	});

	it('is answered at its own address alone: one that was made for another, or for the number it had before a backup was put back, is nobody’s', async () => {
		await send('Boats');
		await send('Lunch');
		await leaveAt('2027-03-09T23:00:00Z');
		const good = await digestAddress('digest-answer');
		const before = addressFor(key, 'digest-answer', { id: 1, nonce: 'another' }, domain);
		const returned = (await digestAddress('digest')).replace(/^d/, 'e');
		const mail = {
			kind: 'answer',
			answer: {
				...{ fromName: '', fromAddress: 'evil@x.example', subject: 'Re: x', text: 'Send money.' },
				...{ whole: '', answersTo: [], quotes: true, files: [], messageId: '<e@x.example>' },
				messageKey: '<e@x.example>'
			}
		} as unknown as ReturnedMail;
		for (const address of [good.replace(/^e1/, 'e2'), before, returned]) await came(address, mail);
		expect(await school.db.all('SELECT id FROM answer')).to.deep.equal([]);
		// From an address that is not on file it is kept with that address, and shown on nobody's page.
		await came(good, mail);
		expect(await school.db.all('SELECT known FROM answer')).to.deep.equal([{ known: 0 }]);
	});

	it('what comes back about it is about each of its letters, and three in it are not three in a row', async () => {
		for (const subject of ['Boats', 'Lunch', 'Tea']) await send(subject);
		await leaveAt('2027-03-09T23:00:00Z');
		const recipient = { finalRecipient: 'home@harbormail.example', originalRecipient: null };
		await came(await digestAddress('digest'), {
			kind: 'notification',
			notification: {
				recipients: [
					{ ...recipient, action: 'failed', status: '4.2.2', text: 'full', diagnostic: '' }
				]
			}
		} as unknown as ReturnedMail);
		expect((await rows()).map((r) => r.state)).to.deep.equal(['failed', 'failed', 'failed']);
		expect(await school.db.all(`SELECT id FROM address WHERE failing IS NOT NULL`)).to.deep.equal(
			[]
		);
	});

	it('a mail in answer to it is about its last letter that can be answered, and can be said to be about another', async () => {
		const [boats, lunch] = [await send('Boats'), await send('Lunch')];
		await send('Tea', { kind: 'announcement' });
		await leaveAt('2027-03-09T23:00:00Z');
		await came(await digestAddress('digest-answer'), {
			kind: 'answer',
			answer: {
				...{ fromName: '', fromAddress: 'home@harbormail.example', subject: 'Re: Your letters' },
				...{ text: 'He brings boots.', whole: '', answersTo: [], quotes: true, files: [] },
				...{ messageKey: '<a@there.example>', messageId: '<a@there.example>' }
			}
		} as unknown as ReturnedMail);
		const talk = () =>
			school.db.one<{ dispatch: number; answer: number }>(
				'SELECT dispatch_id AS dispatch, answer.id AS answer FROM answer JOIN conversation ON conversation.id = conversation_id'
			);
		const at = (await talk())!;
		expect(at.dispatch).to.equal(lunch);
		expect(await moveAnswer(school.db, coordinator, at.answer, 9_999)).to.have.property(
			'ok',
			false
		);
		expect(await moveAnswer(school.db, coordinator, at.answer, boats)).to.have.property('ok', true);
		expect((await talk())!.dispatch).to.equal(boats);
	});
});
