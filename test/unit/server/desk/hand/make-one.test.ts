import { expect } from 'chai';
import { readRoster } from '../../../../../src/lib/server/db/roster';
import { makeOne, makeTwo } from '../../../../../src/lib/server/desk/hand/make-one';
import { bringBack } from '../../../../../src/lib/server/desk/hand/people';
import { twoPeople } from '../../../../../src/lib/server/desk/hand/two-people';
import { personView } from '../../../../../src/lib/server/desk/people/person';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import {
	as,
	coordinator,
	office,
	sheetOf,
	teacher,
	testSchoolWithOffice,
	type TestSchool,
	whyOf
} from '../../database';
import { everything } from '../roster/intake';

const all = { way: 'all', state: 'all', mine: false, page: 1 } as const;

describe('two people on file who are one', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchoolWithOffice();
		for (const statement of [
			`INSERT INTO person (id, kind, given_name, family_name, language, has_inbox, identifier) VALUES
				(20, 'adult', 'Delfina', 'Amaro', 'pt', 0, '77')`,
			`INSERT INTO contact (student_id, person_id, relation, guardian, custody, correspondence, emergency) VALUES
				(1, 20, 'aunt', 0, 0, 0, 1), (3, 20, 'coach', 0, NULL, 0, 0)`,
			`INSERT INTO address (person_id, way, value, consent, consent_how) VALUES (20, 'text', '+12075550101', 'out', 'text'),
				(20, 'email', 'HOME@harbormail.example', 'unknown', NULL), (20, 'email', 'own@islandpost.example', 'unknown', NULL)`,
			`INSERT INTO household (id, name) VALUES (1, 'Amaro')`,
			`INSERT INTO household_member VALUES (1, 20), (1, 1)`,
			`INSERT INTO declined VALUES (20, 'announcement', 'email')`,
			`INSERT INTO own_time (person_id, quiet_from, quiet_to) VALUES (20, 1200, 480)`,
			`INSERT INTO roster_source (id, name, kind, made_at) VALUES (1, 'Lists', 'list', 0)`,
			`INSERT INTO known_as VALUES (1, 'person', 'd', 20)`,
			`INSERT INTO roster_change (person_id) VALUES (NULL)`
		])
			await school.db.run(statement);
	});
	afterEach(() => school.close());
	const one = { keepId: 10, otherId: 20 };

	it('ties, addresses, consent, choices and names in rosters go over, and back again exactly', async () => {
		const before = await everything(school.db);
		expect(whyOf(await makeOne(school.db, office, one))).to.equal('done');
		const roster = await readRoster(school.db);
		expect(roster.person(20)).to.equal(undefined);
		expect(roster.contactsOf(1).map((c) => [c.personId, c.relation])).to.deep.equal([
			[10, 'mother'],
			[11, 'father']
		]);
		expect(roster.contactsOf(3).map((c) => [c.personId, c.relation])).to.deep.equal([
			[10, 'coach'],
			[12, 'father']
		]);
		// A number that wants no texts wants none, whichever of the two said it.
		expect(roster.addressesOf(10).map((a) => [a.value, a.consent])).to.deep.equal([
			['home@harbormail.example', 'unknown'],
			['+12075550101', 'out'],
			['own@islandpost.example', 'unknown']
		]);
		expect(roster.declines(10, 'announcement', 'email')).to.equal(true);
		expect(roster.ownTime(10)?.quiet).to.deep.equal({ fromMinute: 1200, toMinute: 480 });
		expect(roster.householdsOf(10)).to.deep.equal([1]);
		expect(roster.person(10)!.identifier).to.equal('77');
		expect(await school.db.one('SELECT row_id AS id FROM known_as')).to.deep.equal({ id: 10 });
		const { same } = (await personView(school.db, office, 10, all))!;
		expect(same.map((s) => [s.personId, s.by, s.kept])).to.deep.equal([[20, 'Odile Ferro', 1]]);
		expect(whyOf(await bringBack(school.db, coordinator, 20))).to.contain('take that back first');
		expect(whyOf(await makeTwo(school.db, office, same[0]!.id))).to.equal('done');
		const after = await everything(school.db);
		expect(after).to.deep.equal(before);
	});

	it('the log of both is one, and what waits is sent once', async () => {
		await school.db.run(
			`UPDATE contact SET guardian = 1, custody = 1, correspondence = 1 WHERE person_id = 20`
		);
		await school.db.run(`DELETE FROM address WHERE person_id = 20 AND value LIKE 'HOME%'`);
		await school.db.run(`INSERT INTO roster_change (person_id) VALUES (NULL)`);
		const sheet = sheetOf({ ways: ['email'] });
		const { tally } = await landing(school.db, coordinator, sheet);
		await schedule(school.db, Buffer.alloc(32, 7), coordinator, sheet, tally.copies);
		const copies = () =>
			school.db.all<{ p: number; state: string }>(
				`SELECT person_id AS p, state FROM delivery WHERE person_id IN (10, 20) ORDER BY id`
			);
		const held = async () =>
			(await school.db.one<{ n: number }>(
				`SELECT count(*) AS n FROM delivery WHERE state = 'held' AND way = 'email'`
			))!.n;
		const had = await copies();
		expect(await held()).to.equal(2);
		expect(had.some((c) => c.p === 20)).to.equal(true);
		await makeOne(school.db, office, one);
		const now = await copies();
		expect(now.some((c) => c.p === 20 && c.state === 'held')).to.equal(false);
		const view = (await personView(school.db, coordinator, 10, all))!;
		const { n } = (await school.db.one<{ n: number }>(
			`SELECT count(*) AS n FROM delivery WHERE person_id IN (10, 20)
				OR id IN (SELECT delivery_id FROM delivery_also WHERE person_id IN (10, 20))`
		))!;
		expect(n).to.equal(2);
		expect(view.log[0]!.copies).to.have.length(n);
		// One of the two is read at the mailbox that all share: no second goes to the same person.
		expect(await held()).to.equal(1);
	});

	it('what cannot be one is refused', async () => {
		const why = async (keepId: number, otherId: number, user = office) =>
			whyOf(await makeOne(school.db, user, { keepId, otherId }));
		expect(await why(10, 10)).to.contain('one already');
		expect(await why(1, 10)).to.contain('never one person');
		expect(await why(10, 99)).to.contain('no such person');
		expect(await why(10, 91, coordinator)).to.contain('signs in here');
		expect(await why(10, 20, teacher)).to.contain('The school office');
		expect(await why(10, 20, as(office, 'office', 2))).to.contain('no such person');
		expect(await twoPeople(school.db, teacher, [10, 20])).to.equal(null);
		const [left, right] = (await twoPeople(school.db, office, [10, 20]))!;
		expect(left).to.deep.include({
			name: 'Delfina Amaro',
			ties: ['mother of Ana Amaro', 'mother of Rui Amaro']
		});
		expect(right).to.deep.include({ identifier: '77', homes: ['Ana Amaro'], sources: ['Lists'] });
		await makeOne(school.db, office, one);
		expect(await why(11, 20)).to.contain('no such person');
	});
});
