import { expect } from 'chai';
import { audienceOf } from '../../../../../src/lib/core/audience/audience';
import { readRoster } from '../../../../../src/lib/server/db/roster';
import { keepAudience } from '../../../../../src/lib/server/desk/audience/kept';
import {
	groupSchema,
	makeGroup,
	putIntoGroup,
	takeOutOfGroup
} from '../../../../../src/lib/server/desk/groups/change-group';
import { studentsOfKept } from '../../../../../src/lib/server/desk/groups/from-audience';
import { studentsInTable } from '../../../../../src/lib/server/desk/groups/from-list';
import { giveUpGroup } from '../../../../../src/lib/server/desk/joining/look-after';
import { groupList, groupView } from '../../../../../src/lib/server/desk/groups/groups';
import { landing } from '../../../../../src/lib/server/desk/plan/tally';
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

const key = Buffer.alloc(32, 7);

describe('groups', () => {
	let school: TestSchool;
	let id: number;
	beforeEach(async () => {
		school = await testSchoolWithOffice();
		for (const statement of [
			`INSERT INTO school VALUES (2, 'Tern Point', 'Tern')`,
			`INSERT INTO person (id, kind, given_name, family_name, language, school_id, grade_level, has_inbox) VALUES (5, 'student', 'Ana', 'Amaro', 'pt', 2, '7', 0)`,
			`UPDATE person SET identifier = '471' || id WHERE kind = 'student'`
		])
			await school.db.run(statement);
		const made = await makeGroup(
			school.db,
			office,
			groupSchema.parse({ name: 'Regatta Crew', kind: 'team', schoolId: '1' })
		);
		if (!made.ok) throw new Error(made.why);
		({ id } = made);
	});
	afterEach(() => school.close());
	const members = async () => (await readRoster(school.db)).studentsOfGroup(id);

	it('one is made, students come in by hand and go, each written down, and it is written to', async () => {
		expect(await putIntoGroup(school.db, office, id, [1, 3, 1, 99, 10], 'hand')).to.deep.equal({
			ok: true,
			count: 2
		});
		expect(await members()).to.deep.equal([1, 3]);
		const view = (await groupView(school.db, office, id))!;
		expect(view.people.map((p) => p.name)).to.deep.equal(['Ana Amaro', 'Linh Pham']);
		expect(view.cameIn[1]).to.include({ how: 'hand', by: 'Odile Ferro' });
		expect(view.reach).to.include({ students: 2, none: 0 });
		const sheet = sheetOf({ audience: audienceOf([id], ['guardians'], 'groups') });
		expect((await landing(school.db, coordinator, sheet)).tally).to.include({
			students: 2,
			people: 3
		});
		await takeOutOfGroup(school.db, office, id, 1);
		expect(await members()).to.deep.equal([3]);
		expect(
			await school.db.all(`SELECT person_id AS p, before, after FROM person_change ORDER BY id`)
		).to.deep.equal([
			{ p: 1, before: null, after: 'Regatta Crew' },
			{ p: 3, before: null, after: 'Regatta Crew' },
			{ p: 1, before: 'Regatta Crew', after: null }
		]);
	});

	it('a list is looked at first: who is found, who is in it already, and each line that names nobody or several', async () => {
		await putIntoGroup(school.db, office, id, [2], 'hand');
		const look = async (text: string, user = coordinator) => {
			const seen = await studentsInTable({ db: school.db, key }, user, id, Buffer.from(text));
			if (!seen.ok) throw new Error(seen.why);
			return { ...seen, found: seen.found.map((s) => s.id) };
		};
		expect(await look('Student number;Slip\n4711;yes\n4712;no\n9999;yes\n')).to.deep.equal({
			ok: true,
			found: [1],
			already: 1,
			wrong: [{ line: 4, text: 'No student of yours is “9999”.' }]
		});
		expect(await look('Linh Pham\nAna Amaro\n')).to.deep.equal({
			ok: true,
			found: [3],
			already: 0,
			wrong: [
				{
					line: 2,
					text: '2 students are “Ana Amaro”: say which by number, grade or school.'
				}
			]
		});
		expect((await look('Student,School\nAna Amaro,Tern\n')).found).to.deep.equal([5]);
		// An office finds its own only, and a number of another school tells it nothing.
		expect((await look('4715\n4711\n', office)).found).to.deep.equal([1]);
		expect(await members()).to.deep.equal([2]);
		for (const [octets, words] of [
			[Buffer.from([0, 1, 2]), 'is no text'],
			[Buffer.from('a\n"b'), 'never closed'],
			[Buffer.alloc(4_000_001, 'a'), 'over 4 MB']
		] as const)
			expect(whyOf(await studentsInTable({ db: school.db, key }, office, id, octets))).to.contain(
				words
			);
	});

	it('the students of a kept audience come in as it comes to today', async () => {
		const kept = await keepAudience(school.db, coordinator, 'Drama', 'rule', audienceOf([101]));
		if (!kept.ok) throw new Error(kept.why);
		const keptId = kept.id;
		const students = (await studentsOfKept(school.db, coordinator, keptId))!;
		await putIntoGroup(school.db, coordinator, id, students, 'audience');
		expect(await members()).to.deep.equal([3]);
		expect(await studentsOfKept(school.db, teacher, keptId)).to.equal(null);
	});

	it('an office looks after its own, a teacher after none, and who has given one up sees it go', async () => {
		const away = as(office, 'office', 2);
		expect(await groupView(school.db, away, id)).to.equal(null);
		expect(whyOf(await putIntoGroup(school.db, away, id, [5], 'hand'))).to.contain('no such group');
		expect(whyOf(await putIntoGroup(school.db, teacher, id, [1], 'hand'))).to.contain(
			'The school office'
		);
		expect(await groupList(school.db, teacher)).to.deep.equal([]);
		const again = { name: 'regatta crew', kind: 'team', schoolId: 1 };
		expect(whyOf(await makeGroup(school.db, office, again))).to.contain('already');
		expect(whyOf(await makeGroup(school.db, office, { ...again, schoolId: '' }))).to.contain(
			'own school only'
		);
		await putIntoGroup(school.db, office, id, [1], 'hand');
		expect(whyOf(await giveUpGroup(school.db, office, id))).to.equal('done');
		expect(await members()).to.deep.equal([]);
		expect(await groupList(school.db, office)).to.deep.equal([]);
		expect(whyOf(await putIntoGroup(school.db, office, id, [2], 'hand'))).to.contain(
			'no such group'
		);
		expect((await groupView(school.db, office, id))!.goneAt).to.be.a('number');
	});
});
