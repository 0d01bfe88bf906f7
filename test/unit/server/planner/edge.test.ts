import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { expect } from 'chai';
import type { Audience } from '../../../../src/lib/core/audience/audience';
import { readTemplate } from '../../../../src/lib/core/copy/template';
import { linkKey } from '../../../../src/lib/server/access/link-key';
import { isSecure, sessionCookie } from '../../../../src/lib/server/http/cookie';
import { diskRoom, isDiskFull } from '../../../../src/lib/server/disk';
import { person } from '../../../../src/lib/server/db/models/roster';
import { rosterChanged } from '../../../../src/lib/server/db/roster';
import { ask, askWithin, TookTooLong } from '../../../../src/lib/server/planner/planner';
import { ForBulk, plannerProcess } from '../../../../src/lib/server/planner/process';
import type { User } from '../../../../src/lib/server/access/user';
import { services } from '../../../../src/lib/server/services';
import { readSettings } from '../../../../src/lib/server/settings';
import { coordinator, sheetOf, teacher, testSchool, type TestSchool } from '../database';

describe('a question to the planner', () => {
	let school: TestSchool;
	const environment = { ...process.env };
	before(async () => {
		school = await testSchool();
		await linkKey(school.folder, school.db);
		process.env.IDLE_COURIER_DATA = school.folder;
		process.env.IDLE_COURIER_PLANNER = resolve('build/processes/planner.js');
	});
	after(async () => {
		process.env = environment;
		await school.close();
	});

	it('that takes longer than it may ends the planner; its asker is told, those who waited may ask again, and a new one answers', async () => {
		expect(await ask('kept', coordinator)).to.deep.equal([]);
		const answers = await Promise.allSettled([
			askWithin(0, 'week', coordinator, undefined),
			ask('warm'),
			ask('kept', coordinator)
		]);
		const [slow, ...others] = answers.map((a) =>
			a.status === 'rejected' ? (a.reason as Error) : null
		);
		expect(slow).to.be.instanceOf(TookTooLong);
		expect(slow!.message).to.match(/took longer than 0 seconds and was ended/);
		for (const other of others) {
			expect(other?.message ?? 'answered').to.match(/another question took too long|answered/);
		}
		expect(await ask('kept', coordinator)).to.deep.equal([]);
	});

	it('about a large audience, or for bulk work, is answered by a process of its own: what happens there holds up and ends nobody here', async () => {
		const of = { kind: 'schools' as const, ids: [1] };
		const everyone: Audience = {
			version: 2,
			lines: [{ verb: 'and', to: [{ kind: 'guardians' }], of, only: [] }],
			byHand: []
		};
		const sheet = sheetOf({ audience: everyone });
		const small = await ask('landing', coordinator, sheet);
		const students = Array.from({ length: 3_000 }, (_, i) => i + 1_000);
		const here = {
			kind: 'student',
			language: 'en',
			schoolId: 1,
			gradeLevel: '7',
			hasInbox: 0
		} as const;
		await school.db
			.rows(person)
			.addMany(students.map((id) => ({ ...here, id, givenName: 'Ana', familyName: `${id}` })));
		await rosterChanged(school.db);
		const few = plannerProcess('at once');
		const refused = await few
			.ask(90_000, 'landing', [coordinator, sheet])
			.catch((error: Error) => error);
		expect(refused).to.be.instanceOf(ForBulk);
		const large = await ask('landing', coordinator, sheet);
		expect(large.tally.students).to.equal(small.tally.students + 3_000);

		const [bulk, kept] = await Promise.allSettled([
			askWithin(0, 'replanAhead'),
			ask('kept', coordinator)
		]);
		expect(bulk.status).to.equal('rejected');
		expect(kept).to.deep.equal({ status: 'fulfilled', value: [] });
	});

	it('waits behind what the same user has asked, and behind nobody else: who asks forty times holds up themselves', async () => {
		// A planner that answers how many questions are under way, in the order in which they came.
		const file = join(school.folder, 'counting.cjs');
		writeFileSync(
			file,
			`let n = 0;
			process.on('message', ({ id }) => { n += 1; setTimeout(() => { process.send({ id, is: 'done', value: n }); n -= 1; }, 5); });
			process.on('disconnect', () => process.exit(0));`
		);
		const { settings } = await services();
		const before = settings.plannerFile;
		Object.assign(settings, { plannerFile: file });
		const counting = plannerProcess('at once', { idleMs: 0 });
		const order: string[] = [];
		const asked = async (who: User): Promise<number> => {
			const underWay: unknown = await counting.ask(90_000, 'kept', [who]);
			order.push(who.name);
			return Number(underWay);
		};
		const counts = await Promise.all([
			...Array.from({ length: 40 }, () => asked(coordinator)),
			asked(teacher)
		]);
		Object.assign(settings, { plannerFile: before });
		expect(Math.max(...counts)).to.be.within(2, 5);
		expect(order.indexOf(teacher.name)).to.be.below(10);
		expect(order).to.have.length(41);
	});
});

describe('small walls', () => {
	it('with https the session’s cookie is bound to its host, and without it is not asked to be', () => {
		const https = readSettings({ IDLE_COURIER_URL: 'https://courier.example' });
		const http = readSettings({ IDLE_COURIER_URL: 'http://localhost:4173' });
		// RFC 6265bis section 4.1.3.2.
		expect([sessionCookie(https), isSecure(https)]).to.deep.equal(['__Host-session', true]);
		expect([sessionCookie(http), isSecure(http)]).to.deep.equal(['session', false]);
	});

	it('a full disk is known by whatever says so, also when only the words have crossed a thread', async () => {
		for (const error of [
			{ message: 'SQLITE_FULL: database or disk is full' },
			{ message: 'x', original: { code: 'SQLITE_FULL' } },
			{ message: 'write', code: 'ENOSPC' },
			new Error('The planner stopped: database or disk is full')
		]) {
			expect(isDiskFull(error)).to.equal(true);
		}
		expect(isDiskFull(new Error('SQLITE_BUSY'))).to.equal(false);
		const folder = mkdtempSync(join(tmpdir(), 'idle-disk-'));
		expect((await diskRoom(folder))!.freeMegabytes).to.be.above(0);
		expect(await diskRoom(join(folder, 'nowhere'))).to.equal(null);
		rmSync(folder, { recursive: true });
	});

	it('no template uses up the stack or the afternoon', () => {
		const nested = '{{#student}}'.repeat(9_000) + '{{/student}}'.repeat(9_000);
		expect(readTemplate(nested).problems.join()).to.match(/over 500 parts/);
		for (const piece of ['{{', '{{student}}', '{{{', '}}', '{', '{{ \n', '{{nope}}']) {
			expect(readTemplate(piece.repeat(20_000)).render(() => 'Ana')).to.be.a('string');
		}
	});
});
