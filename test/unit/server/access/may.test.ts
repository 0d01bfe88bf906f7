import { expect } from 'chai';
import { may, scope, type Act } from '../../../../src/lib/server/access/may';
import type { User } from '../../../../src/lib/server/access/user';
import { schedule } from '../../../../src/lib/server/desk/send/schedule';
import {
	as,
	farPoint,
	coordinator,
	sheetOf,
	teacher,
	testSchool,
	type TestSchool
} from '../database';

const office = as({ ...teacher, personId: 92 }, 'office', 1);
const principal = as({ ...teacher, personId: 93 }, 'principal', 1);
const helper = as({ ...teacher, personId: 94 }, 'helper', 1);
const operator = as({ ...teacher, personId: 96 }, 'operator', null);
const users = { coordinator, office, principal, teacher, helper, operator };
type Plain = Exclude<
	Act,
	'handle' | 'close' | 'look-after' | 'write-to-school' | 'make-marker' | 'read-log'
>;

const able = (allowed: (user: User) => boolean): string[] =>
	Object.entries(users).flatMap(([role, user]) => (allowed(user) ? role : []));

describe('who may do what', () => {
	// The rights of each role, as the job has them (common practice).
	const rights: Readonly<Record<Plain, readonly (keyof typeof users)[]>> = {
		'speak-for-district': ['coordinator'],
		'take-all-along': ['coordinator'],
		operate: ['coordinator', 'operator'],
		'import-calendar': ['coordinator'],
		'bring-roster': ['coordinator'],
		'correct-people': ['coordinator', 'office', 'principal'],
		'see-others': ['coordinator', 'office', 'principal', 'helper'],
		mend: ['coordinator', 'office', 'principal'],
		'send-urgently': ['coordinator', 'principal'],
		'pass-over': ['coordinator', 'principal'],
		'give-link': ['coordinator', 'office'],
		write: ['coordinator', 'office', 'principal', 'teacher'],
		schedule: ['coordinator', 'office', 'principal', 'teacher'],
		answer: ['coordinator', 'office', 'principal', 'teacher', 'helper'],
		settings: ['coordinator'],
		accounts: ['coordinator']
	};
	for (const [act, roles] of Object.entries(rights)) {
		it(`${act}: ${roles.join(', ')}`, () => {
			expect(able((user) => may(user, act as Plain))).to.deep.equal(roles);
		});
	}

	it('handle: whoever made it, and the district office', () => {
		for (const user of Object.values(users)) {
			expect(may(user, 'handle', user.personId)).to.equal(true);
			expect(may(user, 'handle', 7)).to.equal(user === coordinator);
		}
	});

	for (const act of ['close', 'look-after', 'write-to-school'] as const)
		it(`${act}: an office its own school, the district office any and all`, () => {
			const of = (schoolId: number | null) => able((user) => may(user, act, schoolId));
			expect(of(1)).to.deep.equal(['coordinator', 'office', 'principal']);
			expect(of(2)).to.deep.equal(['coordinator']);
			expect(of(null)).to.deep.equal(['coordinator']);
		});

	it('make-marker: whoever works at the school, the district office any and of all', () => {
		const of = (schoolId: number | null) => able((user) => may(user, 'make-marker', schoolId));
		expect(of(1)).to.deep.equal(['coordinator', 'office', 'principal', 'teacher']);
		for (const other of [2, null]) expect(of(other)).to.deep.equal(['coordinator']);
	});
});

describe('what somebody may see', () => {
	let school: TestSchool;
	before(async () => {
		school = await testSchool();
		await farPoint(school.db);
		const sent = await schedule(school.db, Buffer.alloc(32, 7), coordinator, sheetOf(), 5);
		expect(sent.ok).to.equal(true);
	});
	after(() => school.close());
	const seen = async (
		from: string,
		column: string,
		{ sql, bind }: ReturnType<typeof scope>['kept']
	) =>
		(
			await school.db.all<{ id: number }>(
				`SELECT ${column} AS id FROM ${from} WHERE ${sql} ORDER BY 1`,
				bind
			)
		).map((r) => r.id);

	it('of sections: the district, one school, or those they teach', async () => {
		const sections = (user: User) =>
			seen('section JOIN course ON course.id = course_id', 'section.id', scope(user).sections);
		expect(await sections(coordinator)).to.deep.equal([100, 101, 200]);
		expect(await sections(office)).to.deep.equal([100, 101]);
		expect(await sections(teacher)).to.deep.equal([100]);
	});

	it('of people: everyone, a school and its families, or own students and theirs', async () => {
		const people = (user: User) => seen('person', 'id', scope(user).people('person.id'));
		expect(await people(coordinator)).to.include.members([4, 12, 13]);
		expect(await people(principal)).to.deep.equal([1, 2, 3, 10, 11, 12]);
		expect(await people(teacher)).to.deep.equal([1, 2, 10, 11]);
	});

	it('of dispatches: a draft is its writer’s, what is sent its school’s', async () => {
		const dispatches = (user: User) => seen('dispatch', 'id', scope(user).dispatches);
		expect(await dispatches(office)).to.have.length(1);
		expect(await dispatches(as(office, 'office', 2))).to.deep.equal([]);
		expect(await dispatches(teacher)).to.deep.equal([]);
		await school.db.run(`UPDATE dispatch SET state = 'draft'`);
		expect(await dispatches(office)).to.deep.equal([]);
		expect(await dispatches(coordinator)).to.have.length(1);
	});
});
