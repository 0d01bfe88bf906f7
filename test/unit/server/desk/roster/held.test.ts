import { expect } from 'chai';
import { rosterFiles } from '../../../../../src/lib/core/format/oneroster/files';
import { manifestRows, tableRows } from '../../../../../src/lib/core/format/oneroster/write';
import { heldBook } from '../../../../../src/lib/server/desk/roster/held';
import { districtDatabase, type FreshDatabase } from '../../database';
import { bring, everything, look, testKey } from './intake';
import type { Tables } from './roster-files';

/** All that is held as the tables of an export. */
export async function exported(house: FreshDatabase): Promise<Tables> {
	const book = await heldBook(house.db, testKey);
	return Object.fromEntries([
		['manifest.csv', manifestRows([], 'Idle Courier')],
		...rosterFiles.map((file) => [`${file}.csv`, [...tableRows(book, file)]])
	]) as Tables;
}

describe('a roster that goes out and comes in again', () => {
	let house: FreshDatabase;
	before(async () => {
		house = await districtDatabase(5);
	});
	after(() => house.close());

	it('changes nothing: nothing new, nothing changed, nothing gone, and nobody is asked about', async () => {
		const before = await everything(house.db);
		const { looked, row } = await bring(house, await exported(house));
		expect(row.why).to.equal(null);
		for (const what of ['new', 'changed', 'gone'] as const)
			expect(looked.counts[what], what).to.deep.equal({
				people: 0,
				contacts: 0,
				enrolments: 0,
				sections: 0,
				staff: 0
			});
		expect([looked.wrong, looked.partly, looked.questions, looked.homes]).to.deep.equal([
			0, 0, 0, 0
		]);
		const after = await everything(house.db);
		for (const table of ['school', 'person', 'contact', 'household_member', 'enrolment', 'staff'])
			expect(after[table], table).to.deep.equal(before[table]);
	});

	it('and the next export of the same is known by the names of the first', async () => {
		const { looked } = await look(house, await exported(house));
		for (const what of ['new', 'changed', 'gone'] as const)
			expect(
				Object.values(looked.counts[what]).every((n) => n === 0),
				what
			).to.equal(true);
	});
});
