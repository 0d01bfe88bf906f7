import { existsSync, rmSync } from 'node:fs';
import { expect } from 'chai';
import { moveTo } from '../../../../../src/lib/server/clock';
import { rosterFile } from '../../../../../src/lib/server/db/models/rosters';
import { addFile, changeFile } from '../../../../../src/lib/server/desk/roster/files';
import {
	clearAway,
	endedInTheMiddle,
	giveUpNightly
} from '../../../../../src/lib/server/desk/roster/left-behind';
import { rosterFolder } from '../../../../../src/lib/server/desk/roster/look-file';
import { takeBack } from '../../../../../src/lib/server/desk/roster/take-back';
import { takeIn } from '../../../../../src/lib/server/desk/roster/take-in';
import { coordinator, testSchool, testStart, type TestSchool } from '../../database';
import { bring, look, lookAgain, testKey } from './intake';
import { smallSchool } from './roster-files';

describe('what is left behind of rosters', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
	});
	afterEach(() => school.close());
	const row = async (id: number) => (await school.db.rows(rosterFile).one({ id }))!;
	const house = () => ({ db: school.db, dataFolder: school.folder, key: testKey });
	const taker = { user: coordinator, typed: null };

	it('a file whose process was killed while it came in waits again, and comes in then', async () => {
		const file = await look(school, smallSchool());
		await changeFile(school.db, file.id, { state: 'taking' });
		expect((await takeIn(house(), file.id, taker, () => {})).ok).to.equal(false);
		await endedInTheMiddle(school.db, await row(file.id));
		expect(await row(file.id)).to.include({ state: 'looked' });
		expect((await row(file.id)).why).to.match(/nothing has come in/);
		expect(await takeIn(house(), file.id, taker, () => {})).to.deep.equal({ ok: true });
		await endedInTheMiddle(school.db, await row(file.id));
		expect(await row(file.id)).to.include({ state: 'taken' });
	});

	it('a file that came in between the look at it and this has come in, and can be taken back', async () => {
		const file = await look(school, smallSchool());
		await changeFile(school.db, file.id, { state: 'taking' });
		const seen = await row(file.id);
		await changeFile(school.db, file.id, { state: 'looked' });
		expect(await takeIn(house(), file.id, taker, () => {})).to.deep.equal({ ok: true });
		await endedInTheMiddle(school.db, seen);
		expect(await row(file.id)).to.include({ state: 'taken', why: null });
		expect(await takeBack(school.db, coordinator, file.id)).to.deep.equal({ ok: true });
	});

	it('in a database that was put back without its files, it is refused in words of ours', async () => {
		const file = await look(school, smallSchool());
		rmSync(rosterFolder(school.folder, file.id), { recursive: true });
		const taken = await takeIn(house(), file.id, taker, () => {});
		expect(taken.ok ? '' : taken.why).to.equal(
			'The files of this roster are no longer here. Bring it once more.'
		);
		expect(await row(file.id)).to.include({ state: 'refused' });
		expect((await lookAgain(school, file.id)).row.state).to.equal('refused');
	});

	it('what never came whole is given up after a day, and of what was decided on the newest alone keeps its tables', async () => {
		const first = await bring(school, smallSchool());
		const second = await bring(school, smallSchool());
		const open = await look(school, smallSchool());
		const coming = await addFile(school.db, school.folder, 1, 'half.zip', coordinator.personId);
		const there = () =>
			[first.id, second.id, open.id, coming].filter((id) =>
				existsSync(rosterFolder(school.folder, id))
			);
		await clearAway(school.db, school.folder);
		expect(there()).to.deep.equal([second.id, open.id, coming]);
		await moveTo(school.db, testStart + 25 * 3_600_000);
		await clearAway(school.db, school.folder);
		expect(there()).to.deep.equal([second.id, open.id]);
		expect(await row(coming)).to.include({ state: 'given-up' });
	});

	it('what the night had in hand is given up once it cannot go on; what a person has, is not', async () => {
		await bring(school, smallSchool());
		const night = await addFile(school.db, school.folder, 1, 'night.zip', null);
		const mine = await addFile(school.db, school.folder, 1, 'mine.zip', coordinator.personId);
		for (const id of [night, mine]) await changeFile(school.db, id, { state: 'looking' });
		await giveUpNightly(school.db, 1);
		expect(await row(night)).to.include({ state: 'looking' });
		await moveTo(school.db, testStart + 3_600_000);
		await giveUpNightly(school.db, 1);
		expect(await row(night)).to.include({ state: 'given-up' });
		expect(await row(mine)).to.include({ state: 'looking' });
	});
});
