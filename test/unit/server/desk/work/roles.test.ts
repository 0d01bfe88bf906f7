import { expect } from 'chai';
import { scope, may } from '../../../../../src/lib/server/access/may';
import { userWith, type RoleHeld, type User } from '../../../../../src/lib/server/access/rights';
import { studentsAllowed } from '../../../../../src/lib/server/access/allowed';
import { sessionOf, signIn } from '../../../../../src/lib/server/access/sessions';
import { hashPassword } from '../../../../../src/lib/server/access/passwords';
import { userById } from '../../../../../src/lib/server/access/user';
import { moveTo } from '../../../../../src/lib/server/clock';
import { schedule } from '../../../../../src/lib/server/desk/send/schedule';
import { accountView } from '../../../../../src/lib/server/desk/work/accounts';
import { followRoleTimes } from '../../../../../src/lib/server/desk/work/lost-rights';
import {
	closeAccount,
	endRole,
	giveRole,
	roleSchema,
	setRoleRights
} from '../../../../../src/lib/server/desk/work/roles';
import { usualRights } from '../../../../../src/lib/server/access/rights';
import { audienceOf } from '../../../../../src/lib/core/audience/audience';
import {
	coordinator,
	farPoint,
	sheetOf,
	teacher,
	testSchool,
	testStart,
	whyOf,
	type TestSchool
} from '../../database';

const key = Buffer.alloc(32, 7);
const day = 86_400_000;

describe('roles and what they can do', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
		await farPoint(school.db);
		for (const statement of [
			`INSERT INTO enrolment (section_id, student_id) VALUES (200, 4)`,
			`INSERT INTO address (person_id, way, value, consent) VALUES (91, 'email', 'chidi@brackwater.example', 'in')`
		])
			await school.db.run(statement);
	});
	afterEach(() => school.close());
	const give = (personId: number, input: object, by = coordinator) =>
		giveRole(
			school.db,
			key,
			by,
			personId,
			roleSchema.parse({ role: 'teacher', place: 'school 1', ...input })
		);
	const roleOf = async (personId: number, role: string) =>
		(await school.db.one<{ id: number }>(
			'SELECT id FROM role WHERE person_id = $personId AND role = $role ORDER BY id DESC',
			{ personId, role }
		))!.id;
	const chidi = async () => (await userById(school.db, 91))!;
	const seen = async (user: User, right?: 'look-after' | 'give-link') => {
		const { sql, bind } = scope(user).people('person.id', right);
		return (
			await school.db.all<{ id: number }>(`SELECT id FROM person WHERE ${sql} ORDER BY 1`, bind)
		).map((r) => r.id);
	};

	it('several together: each right holds where its role does, and nowhere else', async () => {
		const held: RoleHeld[] = [
			{ role: 'teacher', schoolId: 1, sectionId: null },
			{ role: 'office', schoolId: 2, sectionId: null }
		];
		const both = userWith(teacher, held);
		expect((await studentsAllowed(school.db, both))!.sort()).to.deep.equal([1, 2, 4]);
		expect(await seen(both)).to.include.members([1, 2, 10, 11, 4, 13]);
		// What an office may do holds for its own school, not for the sections that they teach elsewhere.
		expect(await seen(both, 'look-after')).to.deep.equal([4, 13]);
		expect(await seen(both, 'give-link')).to.deep.equal([4, 13]);
		expect([1, 2, null].map((at) => may(both, 'look-after', at))).to.deep.equal([
			false,
			true,
			false
		]);
	});

	it('urgent is sent where the right to it holds, and past what was declined only with the right to that', async () => {
		const held: RoleHeld[] = [
			{ role: 'principal', schoolId: 2, sectionId: null },
			{ role: 'teacher', schoolId: 1, sectionId: null }
		];
		const user = userWith({ ...teacher, personId: 91 }, held);
		const urgent = (sections: number[]) =>
			sheetOf({ audience: audienceOf(sections), timing: { ...sheetOf().timing, urgent: true } });
		const why = async (sections: number[]) => {
			const done = await schedule(school.db, key, user, urgent(sections), 0);
			return done.ok ? '' : done.checks.map((c) => c.text).join(' ');
		};
		expect(await why([100])).to.contain('may not send urgently to 2 of the students');
		expect(await why([200])).not.to.contain('may not send urgently');
	});

	it('a substitute has one section from a day to a day', async () => {
		const from = new Date(testStart + day).toISOString().slice(0, 10);
		expect(whyOf(await give(91, { place: 'section 200', from, until: from }))).to.equal('done');
		const students = async () => (await studentsAllowed(school.db, await chidi()))!.sort();
		expect(await students()).to.deep.equal([1, 2]);
		await moveTo(school.db, testStart + day);
		expect(await students()).to.deep.equal([1, 2, 4]);
		await moveTo(school.db, testStart + 2 * day);
		expect(await students()).to.deep.equal([1, 2]);
	});

	it('are given for what there is, once, by whoever may', async () => {
		const why = async (input: object, by = coordinator) => whyOf(await give(91, input, by));
		expect(await why({ role: 'office', place: 'section 100' })).to.contain('teacher who stands in');
		expect(await why({ role: 'operator' })).to.contain('whole district');
		expect(await why({ place: 'district' })).to.contain('works at a school');
		expect(await why({ place: 'section 999' })).to.contain('no such section');
		expect(await why({ role: 'office', until: '2020-01-01' })).to.contain('past');
		expect(await why({})).to.contain('already');
		expect(await why({ role: 'office' }, teacher)).to.contain('has the right to say so');
		expect(await why({ role: 'office' })).to.equal('done');
		expect(whyOf(await give(12, {}))).to.contain('Invite them first');
		expect(() => roleSchema.parse({ role: 'teacher', place: "school 1' OR 1" })).to.throw();
	});

	it('the last who may say who works here stays', async () => {
		expect(
			whyOf(await endRole(school.db, key, coordinator, await roleOf(90, 'coordinator')))
		).to.contain('Nobody would be left');
		const less = usualRights.coordinator.filter((r) => r !== 'accounts');
		expect(
			whyOf(await setRoleRights(school.db, key, coordinator, { role: 'coordinator', rights: less }))
		).to.contain('Nobody would be left');
		expect(whyOf(await closeAccount(school.db, key, coordinator, 90, true))).to.contain(
			'your own account'
		);
		expect((await userById(school.db, 90))!.rights).to.deep.equal(coordinator.rights);
	});

	it('a right needs what it stands on', async () => {
		const why = async (rights: ('see' | 'write' | 'schedule' | 'answer')[]) =>
			whyOf(await setRoleRights(school.db, key, coordinator, { role: 'teacher', rights }));
		expect(await why(['write'])).to.contain('has to see');
		expect(await why(['see', 'schedule'])).to.contain('has to write');
		expect(await why(['answer'])).to.contain('has to see');
		expect(await why(['see', 'answer'])).to.equal('done');
		expect(may(await chidi(), 'write')).to.equal(false);
	});

	describe('taken away', () => {
		/** Chidi schedules something for tomorrow. */
		async function scheduled(): Promise<number> {
			const at = new Date(testStart + day).toISOString().slice(0, 16);
			const sheet = sheetOf({
				audience: audienceOf([100]),
				timing: { ...sheetOf().timing, when: { kind: 'at', at } }
			});
			const done = await schedule(school.db, key, await chidi(), sheet, 3);
			if (!done.ok) throw new Error(done.checks.map((c) => c.text).join(' '));
			return done.dispatchId;
		}
		const waits = async (id: number) =>
			(await school.db.one<{ waits: string | null }>('SELECT waits FROM dispatch WHERE id = $id', {
				id
			}))!.waits;
		const told = () =>
			school.db.all<{ personId: number; text: string }>(
				`SELECT person_id AS personId, text FROM notice WHERE kind = 'sign-in' ORDER BY person_id`
			);

		for (const [what, take] of [
			[
				'the role',
				() => roleOf(91, 'teacher').then((id) => endRole(school.db, key, coordinator, id))
			],
			[
				'the right of the role',
				() =>
					setRoleRights(school.db, key, coordinator, {
						role: 'teacher',
						rights: ['see', 'write', 'answer']
					})
			],
			['the account', () => closeAccount(school.db, key, coordinator, 91, true)]
		] as const)
			it(`${what}: what was scheduled does not leave, and both are told`, async () => {
				const id = await scheduled();
				expect(await waits(id)).to.equal(null);
				expect(whyOf(await take())).to.equal('done');
				expect(await waits(id)).to.be.a('string');
				expect(
					await school.db.one(`SELECT 1 FROM delivery WHERE dispatch_id = $id`, { id })
				).to.equal(undefined);
				expect((await told()).map((t) => t.personId)).to.deep.equal([90, 91]);
				expect((await told())[0]!.text).to.contain('Chidi Okafor');
				const line = await school.db.one(
					`SELECT 1 FROM log_line WHERE act = 'sheet-waits' AND thing_id = $id AND by_id IS NULL`,
					{ id }
				);
				expect(line).not.to.equal(undefined);
			});

		it('by its time: the same, once', async () => {
			await school.db.run(`UPDATE role SET ends_at = $t WHERE person_id = 91`, {
				t: testStart + 3_600_000
			});
			const id = await scheduled();
			await followRoleTimes(school.db, key);
			expect(await waits(id)).to.equal(null);
			await moveTo(school.db, testStart + 7_200_000);
			expect(await followRoleTimes(school.db, key)).to.equal(1);
			expect(await waits(id)).to.contain('can no longer sign in');
			expect(await followRoleTimes(school.db, key)).to.equal(0);
		});

		it('copies that have not left of what is on its way are stopped, those that have are not', async () => {
			const id = await scheduled();
			await moveTo(school.db, testStart + day);
			await school.db.run(`UPDATE dispatch SET settled = 1 WHERE id = $id`, { id });
			const first = (await school.db.one<{ id: number }>(
				'SELECT min(id) AS id FROM delivery WHERE dispatch_id = $id',
				{ id }
			))!.id;
			await school.db.run(`UPDATE delivery SET state = 'sent', attempts = 1 WHERE id = $first`, {
				first
			});
			await endRole(school.db, key, coordinator, await roleOf(91, 'teacher'));
			const states = await school.db.all<{ id: number; state: string }>(
				'SELECT id, state FROM delivery WHERE dispatch_id = $id ORDER BY id',
				{ id }
			);
			expect(states[0]!.state).to.equal('sent');
			expect(states.slice(1).every((s) => s.state === 'failed')).to.equal(true);
			expect(states.length).to.be.above(1);
		});

		it('an open session ends with it at the next request', async () => {
			await school.db.run('UPDATE sign_in SET password_hash = $h WHERE person_id = 91', {
				h: await hashPassword('slow-ferry')
			});
			const session = await signIn(school.db, 'chidi', 'slow-ferry');
			const token = session.ok ? session.token : '';
			expect(await sessionOf(school.db, token)).not.to.equal(null);
			await endRole(school.db, key, coordinator, await roleOf(91, 'teacher'));
			expect(await sessionOf(school.db, token)).to.equal(null);
		});
	});

	it('shows of a colleague what they see, counted as they would', async () => {
		const view = (await accountView(school.db, coordinator, 91))!;
		expect(view.sees).to.deep.include({
			sections: 1,
			students: 2,
			dispatches: 0,
			named: ['Mathematics 7-A']
		});
		expect(view.rights.map((r) => r.right)).to.deep.equal([...usualRights.teacher]);
		expect(view.rights[0]!.where).to.contain('roster says they teach');
		expect(await accountView(school.db, coordinator, 12)).to.equal(null);
	});
});
