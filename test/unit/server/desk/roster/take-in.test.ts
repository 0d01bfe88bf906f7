import { expect } from 'chai';
import { readRoster } from '../../../../../src/lib/server/db/roster';
import { takeBack } from '../../../../../src/lib/server/desk/roster/take-back';
import { coordinator, testSchool, type TestSchool } from '../../database';
import { bring, everything, look } from './intake';
import { smallSchool } from './roster-files';

describe('a roster taken in and taken back', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
	});
	afterEach(() => school.close());

	it('a first file puts everybody down, and taking it back leaves nothing', async () => {
		const before = await everything(school.db);
		const file = await bring(school, smallSchool());
		expect(file.looked.wrong).to.equal(0);
		expect(file.looked.counts.new).to.deep.equal({
			people: 6,
			contacts: 3,
			enrolments: 3,
			// The winter term is the one that is here already.
			sections: 5,
			staff: 3
		});
		const roster = await readRoster(school.db);
		const [marlo] = await school.db.all<{ id: number }>(
			`SELECT id FROM person WHERE identifier = '4410'`
		);
		expect(roster.contactsOf(marlo!.id).map((c) => c.relation)).to.deep.equal(['parent']);
		const back = await takeBack(school.db, coordinator, file.id);
		expect(back).to.deep.equal({ ok: true });
		expect(await everything(school.db)).to.deep.equal(before);
	});

	it('the same file again changes nothing', async () => {
		await bring(school, smallSchool());
		const again = await look(school, smallSchool());
		expect(again.looked.counts).to.deep.equal((await look(school, smallSchool())).looked.counts);
		for (const what of ['new', 'changed', 'gone'] as const)
			expect(
				Object.values(again.looked.counts[what]).every((n) => n === 0),
				what
			).to.equal(true);
	});
});
