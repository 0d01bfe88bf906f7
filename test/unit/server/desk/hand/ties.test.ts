import { expect } from 'chai';
import type { User } from '../../../../../src/lib/server/access/user';
import { personView } from '../../../../../src/lib/server/desk/people/person';
import { readRoster } from '../../../../../src/lib/server/db/roster';
import {
	custodyOfSchema,
	sayCustodyOf,
	unsaidCustody
} from '../../../../../src/lib/server/desk/hand/custody';
import { correctTie, tieSchema, type TieInput } from '../../../../../src/lib/server/desk/hand/ties';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { as, coordinator, sheetOf, teacher, testSchool, type TestSchool } from '../../database';

const office = as({ ...coordinator, personId: 91 }, 'office', 1);
const other = as(office, 'office', 2);
const tie = (change: Partial<TieInput> = {}): TieInput => ({
	studentId: 3,
	personId: 12,
	relation: 'father',
	guardian: 'yes',
	custody: 'yes',
	correspondence: 'yes',
	emergency: 'no',
	...change
});

describe('what an adult is to a student, said and corrected by hand', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
	});
	afterEach(() => school.close());
	const unsay = () =>
		school.db.run('UPDATE contact SET custody = NULL WHERE person_id IN (10, 12)');
	const unsaid = (user: User, relation = '') =>
		unsaidCustody(school.db, user, { relation, page: 1 });

	it('a guardian of whom nobody has said it is left out, with that reason, and counted', async () => {
		await unsay();
		await school.db.run('INSERT INTO roster_change (person_id) VALUES (NULL)');
		const { tally } = await landing(school.db, coordinator, sheetOf());
		expect(tally).to.include({ people: 1 });
		expect(tally.leftOutBy.map((r) => [r.text, r.people])).to.deep.equal([
			['Nobody has said yet whether they have custody', 2]
		]);
		expect((await unsaid(coordinator)).relations).to.deep.equal([
			{ relation: 'mother', contacts: 2, students: 2 },
			{ relation: 'father', contacts: 1, students: 1 }
		]);
		expect((await unsaid(coordinator, 'father')).lines).to.deep.equal([
			{ studentId: 3, student: 'Linh Pham', personId: 12, person: 'Bao Pham', relation: 'father' }
		]);
		expect((await unsaid(other)).found).to.equal(0);
		expect((await unsaid(office)).found).to.equal(3);
	});

	it('is said for one by the school office, for a relation and for all by the district office; each is written down', async () => {
		await unsay();
		const said = (user: User, input: object) =>
			sayCustodyOf(school.db, user, custodyOfSchema.parse({ custody: 'yes', ...input }));
		expect((await said(office, { relation: 'mother' })).ok).to.equal(false);
		expect((await said(teacher, { studentId: 3, personId: 12 })).ok).to.equal(false);
		expect(await said(other, { studentId: 3, personId: 12 })).to.deep.equal({
			ok: true,
			contacts: 0
		});
		expect(await said(office, { studentId: 3, personId: 12 })).to.deep.equal({
			ok: true,
			contacts: 1
		});
		expect(await said(coordinator, { relation: 'mother', custody: 'no' })).to.deep.equal({
			ok: true,
			contacts: 2
		});
		expect((await unsaid(coordinator)).found).to.equal(0);
		const roster = await readRoster(school.db);
		expect(roster.contactsOf(1).find((c) => c.personId === 10)!.custody).to.equal(false);
		expect(
			await school.db.all(
				`SELECT by_id AS "by", person_id AS person, about_id AS about, field, before, after FROM person_change ORDER BY id`
			)
		).to.deep.equal([
			{ by: 91, person: 12, about: 3, field: 'custody', before: null, after: 'yes' },
			{ by: 90, person: 10, about: 1, field: 'custody', before: null, after: 'no' },
			{ by: 90, person: 10, about: 2, field: 'custody', before: null, after: 'no' }
		]);
		// What was said once is not said anew for all.
		expect(await said(coordinator, {})).to.deep.equal({ ok: true, contacts: 0 });
	});

	it('a correction takes what waits away at once, is written down field by field, and is seen on the person', async () => {
		const sent = await schedule(
			school.db,
			Buffer.alloc(32, 7),
			coordinator,
			sheetOf({ ways: ['email', 'text', 'inbox'] }),
			5
		);
		expect(sent.ok).to.equal(true);
		expect((await correctTie(school.db, teacher, tie({ custody: 'no' }))).ok).to.equal(false);
		expect((await correctTie(school.db, other, tie({ custody: 'no' }))).ok).to.equal(false);
		expect((await correctTie(school.db, office, tie({ studentId: 1 }))).ok).to.equal(false);
		const done = await correctTie(school.db, office, tie({ custody: 'no', relation: 'uncle' }));
		expect(done).to.deep.equal({ ok: true });
		expect(
			await school.db.all(`SELECT DISTINCT state FROM delivery WHERE person_id = 12`)
		).to.deep.equal([{ state: 'failed' }]);
		const view = await personView(school.db, coordinator, 12, {
			way: 'all',
			state: 'all',
			mine: false,
			page: 1
		});
		expect(view!.ties[0]).to.include({ relation: 'student, as uncle', custody: false });
		expect(view!.changes.map((c) => [c.by, c.field, c.about, c.before, c.after])).to.deep.equal([
			['Chidi Okafor', 'custody', 'Linh Pham', 'yes', 'no'],
			['Chidi Okafor', 'relation', 'Linh Pham', 'father', 'uncle']
		]);
		// The same once more is no change.
		await correctTie(school.db, office, tie({ custody: 'no', relation: 'uncle' }));
		expect(await school.db.one('SELECT count(*) AS n FROM person_change')).to.deep.equal({ n: 2 });
	});

	it('what is typed is looked at before it is taken', () => {
		expect(tieSchema.safeParse({ ...tie(), relation: '  ' }).success).to.equal(false);
		expect(tieSchema.safeParse({ ...tie(), relation: 'x'.repeat(81) }).success).to.equal(false);
		expect(tieSchema.safeParse({ ...tie(), custody: 'maybe' }).success).to.equal(false);
		expect(tieSchema.safeParse({ ...tie(), personId: '-1' }).success).to.equal(false);
	});
});
