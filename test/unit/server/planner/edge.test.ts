import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { expect } from 'chai';
import { readTemplate } from '../../../../src/lib/core/copy/template';
import { linkKey } from '../../../../src/lib/server/access/link-key';
import { isSecure, sessionCookie } from '../../../../src/lib/server/http/cookie';
import { diskRoom, isDiskFull } from '../../../../src/lib/server/disk';
import { ask, askWithin, TookTooLong } from '../../../../src/lib/server/planner/planner';
import { readSettings } from '../../../../src/lib/server/settings';
import { coordinator, testSchool } from '../database';

describe('a question to the planner', () => {
	it('that takes longer than it may ends the planner; its asker is told, those who waited may ask again, and a new one answers', async () => {
		const school = await testSchool();
		await linkKey(school.folder, school.db);
		const before = { ...process.env };
		process.env.IDLE_COURIER_DATA = school.folder;
		process.env.IDLE_COURIER_PLANNER = resolve('build/processes/planner.js');
		try {
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
		} finally {
			process.env = before;
			await school.close();
		}
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
			expect(readTemplate(piece.repeat(20_000)).render({ student: 'Ana' })).to.be.a('string');
		}
	});
});
