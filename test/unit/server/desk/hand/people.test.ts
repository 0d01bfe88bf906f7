import { expect } from 'chai';
import { readRoster } from '../../../../../src/lib/server/db/roster';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { personView } from '../../../../../src/lib/server/desk/people/person';
import {
	addPerson,
	bringBack,
	correctPerson,
	correctSchema,
	endPerson,
	newPersonSchema,
	studentForNew
} from '../../../../../src/lib/server/desk/hand/people';
import { addTie, endTie } from '../../../../../src/lib/server/desk/hand/ties';
import { livesWith, moveOut } from '../../../../../src/lib/server/desk/hand/homes';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import {
	coordinator,
	office,
	sheetOf,
	teacher,
	testSchoolWithOffice,
	type TestSchool,
	whyOf
} from '../../database';

const key = Buffer.alloc(32, 7);
const tie = {
	relation: 'grandmother',
	guardian: 'no',
	custody: 'unsaid',
	correspondence: 'no',
	emergency: 'yes'
} as const;
const fresh = (over: Record<string, unknown> = {}) =>
	newPersonSchema.parse({
		...{ as: 'student', givenName: 'Noor', familyName: 'Haddad', language: 'ar' },
		...{ hasInbox: 'no', identifier: '', schoolId: '1', gradeLevel: '07' },
		...over
	});
const contactOf = (studentId: number, over: Record<string, unknown> = {}) =>
	fresh({ as: 'contact', studentId, schoolId: '', gradeLevel: '', ...tie, ...over });

describe('people added, corrected and ended by hand', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchoolWithOffice();
	});
	afterEach(() => school.close());
	const changes = (personId: number) =>
		school.db.all<{ field: string; before: string | null; after: string | null; by: number }>(
			`SELECT field, before, after, by_id AS "by" FROM person_change WHERE person_id = $personId ORDER BY id`,
			{ personId }
		);

	it('a student and a guardian are added, live together, and are written to', async () => {
		const student = await addPerson(school.db, office, fresh());
		if (!student.ok) throw new Error(student.why);
		const parent = await addPerson(
			school.db,
			office,
			contactOf(student.id, {
				...{ givenName: 'Samira', guardian: 'yes', custody: 'yes', correspondence: 'yes' },
				...{ relation: 'mother', email: 'samira@islandpost.example', number: '(207) 555-0144' },
				...{ consentSaid: 'enrolment form', livesThere: 'yes' }
			})
		);
		if (!parent.ok) throw new Error(parent.why);
		const roster = await readRoster(school.db);
		expect(roster.person(student.id)).to.include({ gradeLevel: '7', schoolId: 1, language: 'ar' });
		expect(roster.addressesOf(parent.id).map((a) => [a.way, a.value, a.consent])).to.deep.equal([
			['email', 'samira@islandpost.example', 'unknown'],
			['text', '+12075550144', 'in']
		]);
		expect(roster.householdsOf(parent.id)).to.deep.equal(roster.householdsOf(student.id));
		expect((await changes(parent.id)).map((c) => [c.field, c.after, c.by])).to.deep.equal([
			['email', 'samira@islandpost.example', 95],
			['sms', '+12075550144', 95],
			['consent', 'opted in', 95],
			['added', 'Samira Haddad', 95],
			['relation', 'mother', 95],
			['household', 'Noor Haddad', 95]
		]);
	});

	it('somebody who looks the same is asked about first, and nothing is added until then', async () => {
		const people = () => school.db.one<{ n: number }>('SELECT count(*) AS n FROM person');
		const before = await people();
		const again = { givenName: 'DELFINA', familyName: 'Amáro', email: 'home@harbormail.example' };
		const asked = await addPerson(school.db, office, contactOf(1, again));
		expect(asked).to.deep.include({
			ok: false,
			alike: [{ personId: 10, name: 'Delfina Amaro', note: 'mother of Ana,Rui' }]
		});
		expect(await people()).to.deep.equal(before);
		const other = await addPerson(school.db, office, contactOf(1, { ...again, another: 'yes' }));
		expect(other.ok).to.equal(true);
	});

	it('what is wrong is refused in words, and nothing of it stays', async () => {
		const people = () => school.db.one<{ n: number }>('SELECT count(*) AS n FROM person');
		const before = await people();
		const wrong = [
			[contactOf(1, { email: 'no address' }), 'is no mail address'],
			[contactOf(1, { number: '12' }), 'is no phone number'],
			[fresh({ schoolId: '' }), 'choose which'],
			[fresh({ schoolId: '7' }), 'choose which'],
			[contactOf(99), 'There is no such student'],
			[contactOf(10), 'There is no such student'],
			[fresh({ as: 'staff', role: 'cook', staffSchoolId: '' }), 'its own school only']
		] as const;
		for (const [input, words] of wrong)
			expect(whyOf(await addPerson(school.db, office, input)), words).to.contain(words);
		expect(whyOf(await addPerson(school.db, teacher, fresh()))).to.contain('The school office');
		expect(await people()).to.deep.equal(before);
		const parse = (over: Record<string, unknown>) =>
			newPersonSchema.safeParse({ ...fresh(), ...over }).error?.issues.map((i) => i.message);
		expect(parse({ givenName: 'x'.repeat(10_000) })).to.deep.equal([
			'The given name is over 200 characters. Shorten it.'
		]);
		expect(parse({ givenName: 'An\u202ea' })).to.deep.equal([
			'The given name holds a character that cannot be seen.'
		]);
		expect(parse({ language: 'klingonish' })).to.have.length(1);
	});

	it('the district number is of one person only', async () => {
		await school.db.run(`UPDATE person SET identifier = '4711' WHERE id = 3`);
		const done = await addPerson(school.db, coordinator, fresh({ identifier: '4711' }));
		expect(whyOf(done)).to.contain('the district’s number of Linh Pham');
	});

	const corrected = (over: Record<string, unknown>) =>
		correctSchema.parse({
			...{ id: 3, givenName: 'Linh', familyName: 'Pham', language: 'vi', hasInbox: 'no' },
			...{ identifier: '', schoolId: '1', gradeLevel: '7' },
			...over
		});

	it('names, language and school are corrected, each with what it was; an office stays in its school', async () => {
		await school.db.run(`INSERT INTO school VALUES (2, 'Tern Point', 'Tern')`);
		const done = await correctPerson(
			school.db,
			office,
			corrected({ givenName: 'Linh Thi', language: 'en', hasInbox: 'yes' })
		);
		expect(done.ok).to.equal(true);
		expect(await changes(3)).to.deep.equal([
			{ field: 'givenName', before: 'Linh', after: 'Linh Thi', by: 95 },
			{ field: 'language', before: 'vi', after: 'en', by: 95 },
			{ field: 'hasInbox', before: 'no', after: 'yes', by: 95 }
		]);
		expect((await readRoster(school.db)).person(3)?.language).to.equal('en');
		const moved = corrected({ schoolId: '2' });
		expect(whyOf(await correctPerson(school.db, office, moved))).to.contain('its own school only');
		expect(whyOf(await correctPerson(school.db, coordinator, moved))).to.equal('done');
		expect((await changes(3)).filter((c) => c.field === 'school')).to.deep.equal([
			{ field: 'school', before: 'Heron Landing', after: 'Tern Point', by: 90 }
		]);
		const away = corrected({ givenName: 'Mine' });
		expect(whyOf(await correctPerson(school.db, office, away))).to.contain('another office');
	});

	it('whoever signs in here is changed by the district office alone, and nobody ends themselves', async () => {
		await school.db.run(`INSERT INTO staff VALUES (91, 1, 'teacher')`);
		const chidi = corrected({ id: 91, givenName: 'Chidi', familyName: 'Okoro', schoolId: '' });
		expect(whyOf(await correctPerson(school.db, office, chidi))).to.contain('another office');
		expect(whyOf(await endPerson(school.db, office, 91))).to.contain('another office');
		expect(
			(await personView(school.db, office, 91, { way: 'all', state: 'all', mine: false, page: 1 }))!
				.own
		).to.equal(null);
		expect(whyOf(await correctPerson(school.db, coordinator, chidi))).to.equal('done');
		expect(whyOf(await endPerson(school.db, coordinator, 90))).to.contain('cannot end yourself');
	});

	it('who is ended leaves audiences and what waits, keeps log and ties, and comes back as they were', async () => {
		const sent = await schedule(
			school.db,
			key,
			coordinator,
			sheetOf({ ways: ['email'] }),
			(await landing(school.db, coordinator, sheetOf({ ways: ['email'] }))).tally.copies
		);
		expect(sent.ok).to.equal(true);
		const waiting = () =>
			school.db.all<{ state: string }>(
				`SELECT DISTINCT state FROM delivery WHERE way = 'email' AND person_id IN (10, 11)`
			);
		expect((await waiting()).map((w) => w.state)).to.deep.equal(['held']);
		await endPerson(school.db, office, 10);
		expect((await readRoster(school.db)).person(10)).to.equal(undefined);
		// They share a mailbox: the copy is the other's now.
		expect(
			await school.db.all('SELECT person_id AS p, state FROM delivery WHERE way = $way', {
				way: 'email'
			})
		).to.deep.equal([{ p: 11, state: 'held' }]);
		await endPerson(school.db, office, 11);
		expect((await waiting()).map((w) => w.state)).to.deep.equal(['failed']);
		await bringBack(school.db, office, 10);
		const roster = await readRoster(school.db);
		expect(roster.contactsOf(1).map((c) => c.personId)).to.include(10);
		expect((await changes(10)).map((c) => c.field)).to.deep.equal(['gone', 'back']);
	});

	it('ties begin and end, homes too, each written down', async () => {
		const both = { studentId: 3, personId: 10 };
		expect((await addTie(school.db, office, { ...both, ...tie })).ok).to.equal(true);
		expect(whyOf(await addTie(school.db, office, { ...both, ...tie }))).to.contain(
			'on file as grandmother already'
		);
		expect(
			whyOf(await addTie(school.db, office, { studentId: 3, personId: 3, ...tie }))
		).to.contain('Nobody is a contact of themselves');
		await endTie(school.db, office, both);
		expect((await addTie(school.db, office, { ...both, ...tie, relation: 'aunt' })).ok).to.equal(
			true
		);
		await livesWith(school.db, office, { personId: 10, withId: 3 });
		const home = (await readRoster(school.db)).householdsOf(10)[0]!;
		expect((await readRoster(school.db)).householdsOf(3)).to.deep.equal([home]);
		await moveOut(school.db, office, { personId: 10, householdId: home });
		expect((await readRoster(school.db)).householdsOf(10)).to.deep.equal([]);
		expect((await changes(10)).map((c) => [c.field, c.before, c.after])).to.deep.equal([
			['relation', null, 'grandmother'],
			['relation', 'grandmother', null],
			['relation', null, 'aunt'],
			['household', null, 'Linh Pham'],
			['household', 'Pham', null]
		]);
		expect(await studentForNew(school.db, office, 10)).to.equal(null);
	});
});
