import { expect } from 'chai';
import { actingIn } from '../../../../src/lib/server/access/acting';
import { checkLog, writeDown } from '../../../../src/lib/server/access/log';
import { isAllowed } from '../../../../src/lib/server/access/may';
import { writeRefused } from '../../../../src/lib/server/access/refused';
import type { LogLineRow } from '../../../../src/lib/server/db/models/log';
import { coordinator, teacher, testSchool, type TestSchool } from '../database';

describe('the log of what was done', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
		await school.db.write((tx) =>
			writeDown(
				tx,
				{ act: 'event-made', by: coordinator, to: ['event', 4], after: { startsAt: 5 } },
				{ act: 'closure-put', by: coordinator, schoolId: 1 },
				{ act: 'roster-refused', by: null, to: ['roster', 2] }
			)
		);
		await school.db.write((tx) => writeDown(tx, { act: 'draft-deleted', by: teacher }));
	});
	afterEach(() => school.close());
	const lines = () => school.db.all<LogLineRow>('SELECT * FROM log_line ORDER BY id');
	/** As somebody does who has the file and may do anything with it. */
	async function behindItsBack(statement: string) {
		await school.db.run('DROP TRIGGER IF EXISTS log_line_stays');
		await school.db.run('DROP TRIGGER IF EXISTS log_line_stays_there');
		await school.db.run(statement);
	}

	it('holds, and says how many lines it has', async () => {
		const checked = await checkLog(school.db);
		expect(checked).to.include({ lines: 4, fault: null });
		expect(checked.bound).to.match(/^[0-9a-f]{64}$/);
	});

	it('is only added to', async () => {
		for (const statement of ['UPDATE log_line SET at = 0', 'DELETE FROM log_line WHERE id = 1']) {
			const said = await school.db.run(statement).then(
				() => 'done',
				(error: Error) => error.message
			);
			expect(said).not.to.equal('done');
		}
		expect(await lines()).to.have.length(4);
	});

	for (const [what, statement, fault] of [
		['a line that was changed', 'UPDATE log_line SET by_id = 91 WHERE id = 2', [2, 'changed']],
		[
			'a value that was changed',
			`UPDATE log_line SET after = '{"startsAt":6}' WHERE id = 1`,
			[1, 'changed']
		],
		['a gap', 'DELETE FROM log_line WHERE id = 2', [2, 'missing']],
		['a missing beginning', 'DELETE FROM log_line WHERE id = 1', [1, 'missing']],
		['a missing end', 'DELETE FROM log_line WHERE id >= 3', [3, 'missing']],
		[
			'a line that was put in at the end',
			`INSERT INTO log_line (id, at, act, bound) VALUES (5, 1, 'erased', 'x')`,
			[5, 'changed']
		]
	] as const)
		it(`shows ${what}`, async () => {
			await behindItsBack(statement);
			const { fault: found } = await checkLog(school.db);
			expect([found?.id, found?.what]).to.deep.equal(fault);
		});

	it('tells one that was written anew as a whole, by a hash that was noted before', async () => {
		const { bound } = await checkLog(school.db);
		await school.db.write((tx) => writeDown(tx, { act: 'draft-deleted', by: teacher }));
		expect((await checkLog(school.db, bound)).found).to.equal(true);
		await behindItsBack('DELETE FROM log_line');
		await school.db.run(`DELETE FROM sqlite_sequence WHERE name = 'log_line'`);
		await school.db.write((tx) => writeDown(tx, { act: 'signed-in', by: teacher }));
		expect(await checkLog(school.db, bound)).to.include({ found: false, fault: null });
	});

	it('is undone with the transaction that it belongs to', async () => {
		await school.db
			.write(async (tx) => {
				await writeDown(tx, { act: 'erased', by: coordinator, to: ['person', 1] });
				throw new Error('not after all');
			})
			.catch(() => {});
		expect(await lines()).to.have.length(4);
		await school.db.write((tx) => writeDown(tx, { act: 'signed-out', by: teacher }));
		expect((await checkLog(school.db)).fault).to.equal(null);
	});

	it('names the session of the request it was done in, and what was tried without the right', async () => {
		const acting = { request: 'r', sessionId: 17, refused: [] as string[] };
		await actingIn(acting, async () => {
			expect(isAllowed(teacher, 'bring-roster')).to.equal(false);
			expect(isAllowed(teacher, 'write')).to.equal(true);
			await writeRefused(school.db, teacher, acting.refused);
		});
		const last = (
			await school.db.all<{ act: string; session: number; by: number; after: string }>(
				`SELECT act, session_id AS session, by_id AS "by", after FROM log_line ORDER BY id DESC LIMIT 1`
			)
		)[0];
		expect(last).to.deep.equal({
			...{ act: 'refused', session: 17, by: 91, after: '{"what":"bring-roster"}' }
		});
	});

	it('is not filled by somebody who tries on and on', async () => {
		for (let i = 0; i < 100; i += 1)
			await writeRefused(school.db, { ...teacher, personId: 12 }, ['operate']);
		expect((await lines()).length).to.be.within(4 + 50, 4 + 60);
	});
});
