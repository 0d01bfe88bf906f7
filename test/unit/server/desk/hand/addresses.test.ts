import { expect } from 'chai';
import { readRoster } from '../../../../../src/lib/server/db/roster';
import {
	addAddress,
	addAddressSchema,
	changeAddress,
	changeAddressSchema,
	takeAddress
} from '../../../../../src/lib/server/desk/hand/addresses';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { takeTexts } from '../../../../../src/lib/server/desk/replies/take-texts';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import {
	coordinator,
	office,
	sheetOf,
	teacher,
	testSchoolWithOffice,
	testStart,
	type TestSchool,
	whyOf
} from '../../database';

const key = Buffer.alloc(32, 7);

describe('addresses and consent by hand', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchoolWithOffice();
	});
	afterEach(() => school.close());
	const add = (over: Record<string, unknown>, user = office) =>
		addAddress(
			school.db,
			user,
			addAddressSchema.parse({ personId: 11, consent: 'unknown', said: '', on: '', ...over })
		);
	const idOf = async (personId: number, way: string) =>
		(await school.db.one<{ id: number }>(
			'SELECT id FROM address WHERE person_id = $personId AND way = $way',
			{ personId, way }
		))!.id;
	const change = (id: number, over: Record<string, unknown>, user = office) =>
		changeAddress(
			school.db,
			user,
			changeAddressSchema.parse({ id, consent: 'unknown', said: '', on: '', ...over })
		);
	const row = (id: number) =>
		school.db.one<Record<string, unknown>>(
			`SELECT value, consent, consent_at AS at, consent_how AS how, consent_said AS said FROM address WHERE id = $id`,
			{ id }
		);

	it('texts are allowed only with who said so, and since when', async () => {
		const number = { way: 'text', value: '207 555 0177', consent: 'in' };
		expect(whyOf(await add(number))).to.contain('Say who allowed texts');
		expect(whyOf(await add({ ...number, said: 'form', on: '2027-03-20' }))).to.contain(
			'still to come'
		);
		expect(whyOf(await add({ ...number, said: 'enrolment form', on: '2026-09-01' }))).to.equal(
			'done'
		);
		expect(await row(await idOf(11, 'text'))).to.deep.equal({
			...{ value: '+12075550177', consent: 'in', how: 'hand', said: 'enrolment form' },
			// Midnight of that day in the district's zone.
			at: Date.parse('2026-09-01T04:00:00Z')
		});
		expect(whyOf(await add(number))).to.contain('on their file already');
		expect(whyOf(await add({ ...number, value: '207 555 0178' }, teacher))).to.contain(
			'The school office'
		);
	});

	it('a number that said STOP opts in by START alone, whoever has it on file', async () => {
		await school.db.write((tx) =>
			takeTexts(tx, [{ from: '+12075550102', to: '12075550100', words: 'STOP' }])
		);
		const id = await idOf(12, 'text');
		const said = await row(id);
		expect(said).to.include({ consent: 'out', how: 'text' });
		expect(said!.at).to.be.at.least(testStart);
		const again = { value: '+12075550102', consent: 'in', said: 'by phone' };
		expect(whyOf(await change(id, again))).to.contain('answered STOP');
		expect(whyOf(await add({ ...again, way: 'text' }))).to.contain('answered STOP');
	});

	it('another number has not opted in by what was said of the old one; the old one gets nothing that waits', async () => {
		const sheet = sheetOf({ ways: ['text'] });
		const { tally } = await landing(school.db, coordinator, sheet);
		expect((await schedule(school.db, key, coordinator, sheet, tally.copies)).ok).to.equal(true);
		const id = await idOf(12, 'text');
		const moved = { value: '(207) 555-0188', consent: 'in' };
		expect(whyOf(await change(id, moved))).to.contain('say it anew');
		expect(whyOf(await change(id, { ...moved, said: 'by phone' }))).to.equal('done');
		const copies = () =>
			school.db.all(`SELECT address, state FROM delivery WHERE person_id = 12 AND way = 'text'`);
		expect(await copies()).to.deep.equal([{ address: '+12075550188', state: 'held' }]);
		await takeAddress(school.db, office, id);
		expect(await copies()).to.deep.equal([{ address: '+12075550188', state: 'failed' }]);
		expect((await readRoster(school.db)).addressesOf(12)).to.deep.equal([]);
	});

	it('a number that wants no texts wants none on whoever’s file it is', async () => {
		await add({ way: 'text', value: '+12075550101', consent: 'in', said: 'form' });
		expect(
			whyOf(await change(await idOf(10, 'text'), { value: '+12075550101', consent: 'out' }))
		).to.equal('done');
		const all = await school.db.all(
			`SELECT person_id AS p, consent FROM address WHERE value = '+12075550101' ORDER BY p`
		);
		expect(all).to.deep.equal([
			{ p: 10, consent: 'out' },
			{ p: 11, consent: 'out' }
		]);
		const written = await school.db.all(
			`SELECT person_id AS p, before, after FROM person_change WHERE field = 'consent' AND after = 'opted out' ORDER BY p`
		);
		expect(written).to.deep.equal([
			{ p: 10, before: 'opted in', after: 'opted out' },
			{ p: 11, before: 'opted in', after: 'opted out' }
		]);
	});

	it('a mailbox that two share: one moves, and what waits stays with the other', async () => {
		const sheet = sheetOf({ ways: ['email'] });
		const { tally } = await landing(school.db, coordinator, sheet);
		await schedule(school.db, key, coordinator, sheet, tally.copies);
		const { p } = (await school.db.one<{ p: number }>(
			`SELECT person_id AS p FROM delivery WHERE way = 'email'`
		))!;
		const id = await idOf(p, 'email');
		expect(whyOf(await change(id, { value: 'own@islandpost.example' }))).to.equal('done');
		expect(
			await school.db.all(`SELECT person_id AS p, address, state FROM delivery WHERE way = 'email'`)
		).to.deep.equal([{ p: p === 10 ? 11 : 10, address: 'home@harbormail.example', state: 'held' }]);
	});

	it('an address of somebody who signs in here is the district office’s to change', async () => {
		await school.db.run(`INSERT INTO staff VALUES (91, 1, 'teacher')`);
		const mine = { personId: 91, way: 'email', value: 'mine@islandpost.example' };
		expect(whyOf(await add(mine))).to.contain('another office');
		expect(whyOf(await add(mine, coordinator))).to.equal('done');
		expect(whyOf(await takeAddress(school.db, office, await idOf(91, 'email')))).to.contain(
			'another office'
		);
	});
});
