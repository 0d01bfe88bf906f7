import { expect } from 'chai';
import { openLink } from '../../../../../src/lib/server/access/private-link';
import { copyToken, personToken } from '../../../../../src/lib/server/access/tokens';
import { readRoster } from '../../../../../src/lib/server/db/roster';
import {
	choicesSchema,
	readChoices,
	setTexts,
	type Choices
} from '../../../../../src/lib/server/desk/family/choices';
import { choose as chooseFor } from './choose';
import { officeLink } from '../../../../../src/lib/server/desk/people/office-link';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { askForLink } from '../../../../../src/lib/server/desk/replies/ask-link';
import { endLinksOf, endThisLink } from '../../../../../src/lib/server/desk/replies/end-link';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { usualTiming } from '../../../../../src/lib/core/time/timing';
import { coordinator, office, sheetOf, teacher } from '../../database';
import { answeredSchool, type AnsweredSchool } from '../replies/answered-school';

const key = Buffer.alloc(32, 7);
const bao = '+12075550102';

describe('what a family chooses for itself', () => {
	let school: AnsweredSchool;
	beforeEach(async () => (school = await answeredSchool()));
	afterEach(() => school.close());
	const choose = (personId: number, over: Partial<Choices>) => chooseFor(school.db, personId, over);
	const waiting = () =>
		school.db.all<{ way: string; state: string; due: number }>(
			`SELECT way, state, due_at AS due FROM delivery WHERE person_id = 12 AND dispatch_id > ${school.dispatchId} ORDER BY way`
		);
	const later = (urgent = false) =>
		schedule(
			school.db,
			key,
			coordinator,
			sheetOf({
				ways: ['text', 'inbox'],
				timing: { ...usualTiming, urgent, when: { kind: 'at', at: '2027-03-09T20:30' } }
			}),
			4
		);

	it('is written down with who, the last ten shown, and what was not changed changes nothing', async () => {
		expect(await choose(12, {})).to.equal(0);
		expect(
			await choose(12, { language: 'en', wants: ['message inbox'], zone: 'Europe/Lisbon' })
		).to.equal(5);
		const { changes, wants, language, zone } = await readChoices(school.db, 12);
		expect({ wants, language, zone }).to.deep.equal({
			...{ wants: ['message inbox'], language: 'en', zone: 'Europe/Lisbon' }
		});
		expect(changes.map((c) => [c.field, c.own])).to.deep.include(['language', 1]);
		expect(changes.find((c) => c.field === 'language')).to.include({ before: 'vi', after: 'en' });
		for (let n = 0; n < 6; n += 1) {
			await choose(12, { language: 'vi' });
			await choose(12, { language: 'en' });
		}
		expect((await readChoices(school.db, 12)).changes).to.have.length(10);
	});

	it('takes no language, zone or hour that is none', () => {
		const good = { language: 'vi', wants: [], quietFrom: '', quietTo: '', digest: '', zone: '' };
		expect(choicesSchema.safeParse(good).success).to.equal(true);
		for (const bad of [
			...[{ language: 'xx-nowhere-at-all-zz' }, { zone: 'Mars/Base' }, { quietFrom: '25:00' }],
			...[
				{ digest: '6 pm' },
				{ digest: '06:00', quietFrom: '20:00', quietTo: '06:01' },
				{ quietTo: '9' },
				{ wants: Array.from({ length: 11 }, () => 'x') }
			]
		])
			expect(choicesSchema.safeParse({ ...good, ...bad }).success).to.equal(false);
	});

	it('renews that person in memory, not the district, and holds for the next letter', async () => {
		const before = await readRoster(school.db);
		await choose(12, { language: 'en' });
		const after = await readRoster(school.db);
		expect([before.person(12)!.language, after.person(12)!.language]).to.deep.equal(['vi', 'en']);
		// The same index: only what is theirs was read again.
		expect(after.studentsIn(100)).to.equal(before.studentsIn(100));
		const { tally } = await landing(school.db, coordinator, sheetOf({ ways: ['inbox'] }));
		expect(tally.copies).to.equal(2);
	});

	it('holds for what waits: a way that is not wanted is stopped, own quiet hours move it; what is urgent passes over both', async () => {
		expect((await later()).ok).to.equal(true);
		const before = await waiting();
		await choose(12, { quietFrom: '20:00', quietTo: '09:00' });
		const moved = await waiting();
		expect(moved[1]!.due).to.be.above(before[1]!.due);
		expect(new Date(moved[1]!.due).toISOString()).to.equal('2027-03-10T14:00:00.000Z');
		// Given up again, or shortened, they hold nothing back that they held back before.
		await choose(12, { quietFrom: '20:00', quietTo: '08:30' });
		expect(new Date((await waiting())[1]!.due).toISOString()).to.equal('2027-03-10T13:30:00.000Z');
		await choose(12, { quietFrom: '', quietTo: '' });
		expect(await waiting()).to.deep.equal(before);
		await choose(12, { wants: ['announcement email', 'announcement inbox', 'message email'] });
		expect((await waiting()).map((c) => c.state)).to.deep.equal(['failed', 'planned']);
		await choose(12, { wants: ['message inbox', 'message email'], quietFrom: '', quietTo: '' });
		expect((await later(true)).ok).to.equal(true);
		await choose(12, { wants: [], quietFrom: '20:00', quietTo: '09:00' });
		const urgent = await school.db.all<{ state: string; due: number }>(
			`SELECT state, due_at AS due FROM delivery WHERE person_id = 12 AND dispatch_id = (SELECT max(id) FROM dispatch)`
		);
		expect(urgent.map((u) => u.state)).to.deep.equal(['planned', 'planned']);
		expect(Math.max(...urgent.map((u) => u.due))).to.be.below(Date.parse('2027-03-10T02:00:00Z'));
	});

	it('stops texts to a phone of theirs at once, and starts them only by a YES from the phone itself', async () => {
		await later();
		const [phone] = (await readChoices(school.db, 12)).phones;
		expect(await setTexts(school.db, 10, phone!.id, false)).to.equal('gone');
		expect(await setTexts(school.db, 12, phone!.id, false)).to.equal(null);
		expect((await waiting())[1]).to.include({ way: 'text', state: 'failed' });
		expect((await readChoices(school.db, 12)).phones[0]!.on).to.equal(false);
		expect(await setTexts(school.db, 12, phone!.id, true)).to.equal(null);
		expect(await setTexts(school.db, 12, phone!.id, true)).to.equal('asked-enough');
		expect((await readChoices(school.db, 12)).phones[0]!.on).to.equal(false);
		await school.text(bao, 'Có');
		expect((await readChoices(school.db, 12)).phones[0]!.on).to.equal(true);
	});
});

describe('a link to a family’s page', () => {
	let school: AnsweredSchool;
	beforeEach(async () => (school = await answeredSchool()));
	afterEach(() => school.close());
	const sentLinks = async () =>
		(
			await school.db.all<{ address: string; personId: number; nonce: string }>(
				`SELECT address, person_id AS personId, family_link.nonce FROM auto_note JOIN family_link ON family_link.id = link_id
				WHERE kind = 'link' ORDER BY auto_note.id`
			)
		).map((l) => ({ ...l, token: personToken(key, l.nonce) }));
	const copyLink = async (personId: number) => {
		const copy = await school.db.one<{ nonce: string }>(
			`SELECT nonce FROM delivery WHERE person_id = $personId AND link_hash IS NOT NULL ORDER BY id LIMIT 1`,
			{ personId }
		);
		return copyToken(key, copy!.nonce);
	};

	it('is sent to whoever reads at an address, each their own, for a day; of an unknown address the answer is the same', async () => {
		expect(await askForLink(school.db, key, 'HOME@harbormail.example')).to.equal(true);
		expect((await sentLinks()).map((l) => [l.address, l.personId])).to.deep.equal([
			['HOME@harbormail.example', 10],
			['HOME@harbormail.example', 11]
		]);
		const [own] = await sentLinks();
		expect(await openLink(school.db, own!.token)).to.include({ ok: true, personId: 10 });
		await school.pass(24 * 3_600_000);
		expect(await openLink(school.db, own!.token)).to.deep.equal({ ok: false, why: 'ended' });
		expect(await askForLink(school.db, key, 'nobody@where.example')).to.equal(true);
		expect(await askForLink(school.db, key, '207 555 0199')).to.equal(true);
		expect(await askForLink(school.db, key, 'hello')).to.equal(false);
		expect(await sentLinks()).to.have.length(2);
	});

	it('is sent three times a day at most, and to a phone only where texts were allowed', async () => {
		for (let n = 0; n < 5; n += 1) await askForLink(school.db, key, bao);
		expect(await sentLinks()).to.have.length(3);
		await school.text('+12075550101', 'STOP');
		await askForLink(school.db, key, '+12075550101');
		expect(await sentLinks()).to.have.length(3);
	});

	it('is ended by whoever it is not for: that one alone; the district office is told', async () => {
		const token = await copyLink(12);
		const opened = await openLink(school.db, token);
		if (opened.ok) await endThisLink(school.db, token, opened);
		expect(await openLink(school.db, token)).to.deep.equal({ ok: false, why: 'ended' });
		expect(await openLink(school.db, await copyLink(10))).to.include({ ok: true });
		const [told] = await school.db.all<{ personId: number; text: string }>(
			'SELECT person_id AS personId, text FROM notice'
		);
		expect(told!.personId).to.equal(90);
		expect(told!.text).to.contain('Bao Pham').and.contain(bao);
	});

	it('is ended by the office with all of that person’s; what leaves later opens again', async () => {
		const token = await copyLink(12);
		const made = (await officeLink(school.db, key, 'https://x.example', office, 12))!;
		expect(await endLinksOf(school.db, teacher, 12)).to.equal(false);
		await school.pass(1_000);
		expect(await endLinksOf(school.db, office, 12)).to.equal(true);
		expect(await openLink(school.db, token)).to.include({ ok: false });
		expect(await openLink(school.db, made.link.split('/f/')[1]!)).to.include({ ok: false });
		expect(await openLink(school.db, await copyLink(10))).to.include({ ok: true });
		await school.pass(1_000);
		const later = await school.send({ subject: 'Boots' });
		const copy = await school.db.one<{ nonce: string }>(
			`SELECT nonce FROM delivery WHERE dispatch_id = ${later} AND person_id = 12 AND way = 'text'`
		);
		expect(await openLink(school.db, copyToken(key, copy!.nonce))).to.include({ ok: true });
	});
});
