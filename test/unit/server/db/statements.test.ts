import { expect } from 'chai';
import { openDatabase } from '../../../../src/lib/server/db/open';
import { testSchool, type TestSchool } from '../database';

describe('statements of our own', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
	});
	afterEach(() => school.close());
	/** Counts to a million: long enough to be under way when something else happens. */
	const slow =
		'WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 1000000) SELECT count(*) AS n FROM n';

	it('give each who asks their own rows, however many ask the same or another at once, also where they are let go of', async () => {
		const asked = Array.from({ length: 3_000 }, (_, i) => i);
		const answers = await Promise.all(
			asked.map((i) =>
				// More texts than are kept, each asked for again and again.
				school.db.one<{ text: number; given: number }>(
					`SELECT ${i % 700} AS text, $given AS given`,
					{ given: i }
				)
			)
		);
		expect(answers).to.deep.equal(asked.map((i) => ({ text: i % 700, given: i })));
	});

	it('that fail say so to those who asked, and to nobody else', async () => {
		const all = await Promise.allSettled(
			Array.from({ length: 30 }, (_, i) =>
				school.db.one<{ n: number }>(i % 3 ? 'SELECT 1 AS n' : 'SELECT none FROM nowhere')
			)
		);
		expect(all.map((one) => one.status)).to.deep.equal(
			all.map((_, i) => (i % 3 ? 'fulfilled' : 'rejected'))
		);
	});

	it('are waited for at the end: what is under way is answered, and the database closes', async () => {
		const db = await openDatabase(school.db.file);
		const asked = [db.one(slow), db.one('SELECT 1 AS n'), db.one('SELECT 2 AS n')];
		await db.close();
		expect(await Promise.all(asked)).to.deep.equal([{ n: 1_000_000 }, { n: 1 }, { n: 2 }]);
	});
});
