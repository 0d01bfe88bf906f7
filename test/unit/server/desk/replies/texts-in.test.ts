import { expect } from 'chai';
import { moveTo, now } from '../../../../../src/lib/server/clock';
import { officeLink } from '../../../../../src/lib/server/desk/people/office-link';
import { mendAddress } from '../../../../../src/lib/server/desk/people/mend';
import { setOwnNumber } from '../../../../../src/lib/server/desk/plan/own-number';
import { setStopped } from '../../../../../src/lib/server/desk/family/own-choices';
import { lookSchema, repliesView } from '../../../../../src/lib/server/desk/replies/replies';
import type { User } from '../../../../../src/lib/server/access/user';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { takeTexts } from '../../../../../src/lib/server/desk/replies/take-texts';
import { putNotices } from '../../../../../src/lib/server/desk/staff/notices';
import { usualTiming } from '../../../../../src/lib/core/time/timing';
import { coordinator, sheetOf, teacher, testSchool, type TestSchool } from '../../database';
import { openLink } from '../../../../../src/lib/server/access/private-link';

const key = Buffer.alloc(32, 7);

describe('what phones send', () => {
	let school: TestSchool;
	beforeEach(async () => (school = await testSchool()));
	afterEach(() => school.close());
	const come = (from: string, words: string) =>
		school.db.write((tx) => takeTexts(tx, [{ from, to: '12075550100', words }]));
	const look = (user: User) => repliesView(school.db, user, lookSchema.parse({}));
	const consent = async () =>
		(await school.db.one<{ c: string }>(
			`SELECT consent AS c FROM address WHERE person_id = 10 AND way = 'text'`
		))!.c;

	it('is kept, with who and what it answers, once; another teacher does not see it', async () => {
		const sent = await schedule(
			school.db,
			key,
			coordinator,
			sheetOf({ ways: ['text'], holdMinutes: 0 }),
			2
		);
		const id = sent.ok ? sent.dispatchId! : 0;
		await school.db.run(
			`UPDATE delivery SET state = 'sent', left_at = ${Math.round(await now(school.db))}`
		);
		await come('12075550102', 'Can we bring boots?');
		await come('12075550102', 'Can we bring boots?');
		await come('+12075559999', 'Who is this?');
		const { heads } = await look(coordinator);
		expect(
			heads.flatMap((h) => h.slips.map((s) => [s.who, s.words, h.dispatchId]))
		).to.have.deep.members([
			['Bao Pham', 'Can we bring boots?', id],
			['+12075559999', 'Who is this?', null]
		]);
		expect((await look(teacher)).heads).to.deep.equal([]);
	});

	it('is kept one by one however quickly one comes after another, and where the machine’s time is put back', async () => {
		const real = Date.now;
		const stands = real();
		try {
			Date.now = () => stands;
			for (const words of ['Is it', 'on Friday?']) await come('12075550102', words);
			Date.now = () => stands - 1_000;
			await come('12075550102', 'or Monday');
			Date.now = () => stands;
			await come('12075550102', 'at nine?');
		} finally {
			Date.now = real;
		}
		const kept = await school.db.all<{ text: string }>('SELECT text FROM answer ORDER BY id');
		expect(kept.map((a) => a.text)).to.deep.equal([
			...['Is it', 'on Friday?', 'or Monday', 'at nine?']
		]);
	});

	it('STOP ends texts to the number at once, also those that wait to leave; START brings them back', async () => {
		const sheet = sheetOf({
			ways: ['text'],
			timing: { ...usualTiming, when: { kind: 'at', at: '2027-03-09T10:05' } }
		});
		expect((await schedule(school.db, key, coordinator, sheet, 2)).ok).to.equal(true);
		await come('12075550101', 'Stop.');
		expect(await consent()).to.equal('out');
		const states = await school.db.all<{ personId: number; state: string }>(
			'SELECT person_id AS personId, state FROM delivery ORDER BY person_id'
		);
		expect(states).to.deep.equal([
			{ personId: 10, state: 'failed' },
			{ personId: 12, state: 'planned' }
		]);
		const out = await landing(school.db, coordinator, sheetOf({ ways: ['text'] }));
		expect(out.tally.copies).to.equal(1);
		await come('+1 207 555 0101', 'START');
		expect(await consent()).to.equal('in');
		expect(
			(await landing(school.db, coordinator, sheetOf({ ways: ['text'] }))).tally.copies
		).to.equal(2);
		expect(await school.db.all('SELECT command FROM text_in ORDER BY id')).to.deep.equal([
			{ command: 'stop' },
			{ command: 'start' }
		]);
		expect((await look(coordinator)).heads).to.deep.equal([]);
	});

	it('email of a kind that is stopped by the link does not leave any more either, unless it is urgent', async () => {
		const at = (urgent: boolean) =>
			sheetOf({
				ways: ['email'],
				timing: { when: { kind: 'at', at: '2027-03-09T10:05' }, ends: null, clock: null, urgent }
			});
		await schedule(school.db, key, coordinator, at(false), 1);
		await schedule(school.db, key, coordinator, at(true), 1);
		await setStopped(school.db, 10, 'message', true);
		const states = await school.db.all<{ state: string }>('SELECT state FROM delivery ORDER BY id');
		expect(states.map((s) => s.state)).to.deep.equal(['failed', 'planned']);
	});

	it('letters to the staff stand where they can open them, and only theirs', async () => {
		await school.db.write((tx) =>
			putNotices(tx, [
				{
					key: 'x',
					personId: 90,
					kind: 'account',
					subject: 'Report: Boats',
					text: 'All have read.',
					dispatchId: null,
					byMail: false
				}
			])
		);
		expect((await look(coordinator)).letters.map((l) => l.subject)).to.deep.equal([
			'Report: Boats'
		]);
		expect((await look(teacher)).letters).to.deep.equal([]);
	});

	it('a link on paper opens one inbox for a while; a teacher gives none, and who made it is kept', async () => {
		const made = (await officeLink(school.db, key, 'https://x.example', coordinator, 12))!;
		const token = made.link.split('/f/')[1]!;
		expect(made.link.length - 'https://x.example'.length).to.be.at.most(30);
		expect(await openLink(school.db, token)).to.include({ ok: true, personId: 12 });
		expect(await officeLink(school.db, key, 'https://x.example', teacher, 10)).to.equal(null);
		// No inbox, no link.
		expect(await officeLink(school.db, key, 'https://x.example', coordinator, 11)).to.equal(null);
		const row = await school.db.one<{ by: number }>('SELECT made_by AS by FROM family_link');
		expect(row!.by).to.equal(90);
		await moveTo(school.db, made.endsAt + 1);
		expect((await openLink(school.db, token)).ok).to.equal(false);
	});

	it('a number of one’s own is put on file for proofs, and no other', async () => {
		const bad = await setOwnNumber(school.db, coordinator, 'call me');
		expect(!bad.ok && bad.why).to.match(/is no phone number/);
		expect(await setOwnNumber(school.db, coordinator, '(207) 555-0143')).to.deep.equal({
			ok: true,
			number: '+12075550143'
		});
		const rows = await school.db.all<{ personId: number }>(
			`SELECT person_id AS personId FROM address WHERE value = '+12075550143'`
		);
		expect(rows).to.deep.equal([{ personId: 90 }]);
	});

	it('a number of one’s own is nobody else’s, and not one that said STOP, whoever has it on file', async () => {
		// A parent's number, by a teacher who would write to it by way of a proof.
		const other = await setOwnNumber(school.db, teacher, '(207) 555-0102');
		expect(!other.ok && other.why).to.match(/on file for somebody else/);
		// On nobody's file when it stops: the STOP stays with the number (common practice).
		await come('+12075550188', 'Stop');
		const stopped = await setOwnNumber(school.db, teacher, '207-555-0188');
		expect(!stopped.ok && stopped.why).to.match(/asked for no more texts/);
		await come('+12075550188', 'START');
		expect((await setOwnNumber(school.db, teacher, '207-555-0188')).ok).to.equal(true);
	});

	it('no more numbers than a person has are tried in an hour', async () => {
		const nosy = { ...coordinator, personId: 99_001 };
		const said: string[] = [];
		for (let n = 0; n < 7; n += 1) {
			const set = await setOwnNumber(school.db, nosy, '(207) 555-0102');
			said.push(set.ok ? 'ok' : set.why);
		}
		expect(said.slice(0, 5).every((why) => /somebody else/.test(why))).to.equal(true);
		expect(said.slice(5).every((why) => /Wait an hour/.test(why))).to.equal(true);
	});

	it('a number that said STOP is not put in the place of a failing one', async () => {
		await school.db.run(
			`UPDATE address SET failing = 'no such number', failing_since = 1 WHERE person_id = 10 AND way = 'text'`
		);
		const { id } = (await school.db.one<{ id: number }>(
			`SELECT id FROM address WHERE person_id = 10 AND way = 'text'`
		))!;
		await come('+12075550188', 'unsubscribe');
		const refused = await mendAddress(school.db, coordinator, { id, value: '(207) 555-0188' });
		expect(!refused.ok && refused.why).to.match(/answered STOP/);
		await come('+12075550188', 'start');
		expect(
			(await mendAddress(school.db, coordinator, { id, value: '(207) 555-0188' })).ok
		).to.equal(true);
	});
});
