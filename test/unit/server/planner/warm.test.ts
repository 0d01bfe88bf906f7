import { expect } from 'chai';
import type { Db } from '../../../../src/lib/server/db/open';
import { warm } from '../../../../src/lib/server/planner/warm';
import { freshDatabase, testSchool } from '../database';

describe('what a planner goes through before anybody asks it', () => {
	it('works out tallies, and leaves nothing behind', async () => {
		const school = await testSchool();
		const before = await rowsIn(school.db);
		let tallies = 0;
		const db: Db = {
			...school.db,
			all: (sql, bind) => {
				// Asked by each tally: the terms of whom it speaks.
				if (sql.includes('FROM term WHERE id IN')) tallies += 1;
				return school.db.all(sql, bind);
			}
		};
		await warm(db);
		expect(tallies).to.be.greaterThan(0);
		expect(await rowsIn(school.db)).to.deep.equal(before);
		await school.close();
	});

	it('is done at once where nobody is there yet', async () => {
		const empty = await freshDatabase();
		await warm(empty.db);
		await empty.close();
	});
});

/** How many rows each table has. */
async function rowsIn(db: Db): Promise<object> {
	const tables = await db.all<{ name: string }>(
		`SELECT name FROM sqlite_master WHERE type = 'table'`
	);
	const counts: Record<string, number> = {};
	for (const { name } of tables)
		counts[name] = (await db.one<{ n: number }>(`SELECT count(*) AS n FROM "${name}"`))!.n;
	return counts;
}
