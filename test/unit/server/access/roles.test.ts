import { expect } from 'chai';
import { hashPassword } from '../../../../src/lib/server/access/passwords';
import { openAccount } from '../../../../src/lib/server/access/accounts';
import { userOf } from '../../../../src/lib/server/access/listener';
import { signIn } from '../../../../src/lib/server/access/sessions';
import { everyUser, userById, usersWho } from '../../../../src/lib/server/access/user';
import { moveTo, setClock } from '../../../../src/lib/server/clock';
import type { User } from '../../../../src/lib/server/access/rights';
import { role } from '../../../../src/lib/server/db/models/access';
import { person } from '../../../../src/lib/server/db/models/roster';
import { testSchool, testStart, type TestSchool } from '../database';

describe('roles', () => {
	const day = 86_400_000;
	let school: TestSchool;
	before(async () => {
		school = await testSchool();
		const passwordHash = await hashPassword('slow-ferry');
		await school.db.write((tx) =>
			openAccount(tx, {
				personId: 12,
				userName: 'bao',
				passwordHash,
				title: 'Substitute',
				role: 'teacher',
				schoolId: 1
			})
		);
		// An office from tomorrow on, for a week.
		await school.db.rows(role).add({
			personId: 12,
			role: 'office',
			schoolId: 1,
			startsAt: testStart + day,
			endsAt: testStart + 8 * day
		});
	});
	after(() => school.close());

	const rolesOf = (user: Pick<User, 'roles'>) =>
		user.roles
			.map((r) => r.role)
			.sort()
			.join(' ');
	const bao = async () => {
		const user = await userById(school.db, 12);
		return user && rolesOf(user);
	};

	it('of an account last from the beginning: a clock that is set back, however far, locks nobody out', async () => {
		await setClock(school.db, Date.parse('2020-01-01T00:00:00Z'));
		expect((await everyUser(school.db)).map(rolesOf)).to.deep.equal([
			'teacher',
			'coordinator',
			'teacher'
		]);
		await setClock(school.db, testStart);
	});

	it('count from their start to before their end, several together', async () => {
		expect(await bao()).to.equal('teacher');
		await moveTo(school.db, testStart + day - 60_000);
		expect(await bao()).to.equal('teacher');
		await moveTo(school.db, testStart + day);
		expect(await bao()).to.equal('office teacher');
		expect((await usersWho(school.db, 'give-link')).map((u) => u.name)).to.have.members([
			...['Bao Pham', 'Maren Quill']
		]);
		await moveTo(school.db, testStart + 8 * day);
		expect(await bao()).to.equal('teacher');
		expect((await everyUser(school.db)).map((u) => u.userName)).to.deep.equal([
			'bao',
			'maren',
			'chidi'
		]);
	});

	it('once they have all ended nobody comes in, and a session that was open is none any more', async () => {
		const before = await signIn(school.db, 'bao', 'slow-ferry');
		const token = before.ok ? before.token : '';
		expect((await userOf(school.db, token))?.personId).to.equal(12);
		await school.db.rows(role).change({ personId: 12, role: 'teacher' }, { endsAt: testStart });
		expect(await userOf(school.db, token)).to.equal(null);
		expect((await signIn(school.db, 'bao', 'slow-ferry')).ok).to.equal(false);
	});

	it('nor does who has gone', async () => {
		await school.db.rows(person).change({ id: 91 }, { goneAt: testStart });
		expect(await userById(school.db, 91)).to.equal(null);
	});
});
