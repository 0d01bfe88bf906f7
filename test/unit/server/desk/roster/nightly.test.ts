import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import { bringFrom, whyNotByItself } from '../../../../../src/lib/server/desk/roster/nightly';
import { waitingFiles } from '../../../../../src/lib/server/desk/roster/views';
import { watchedFolder } from '../../../../../src/lib/server/desk/roster/watched-folder';
import { reportRosters } from '../../../../../src/lib/server/desk/staff/roster-report';
import { testSchool, type TestSchool } from '../../database';
import { bring, testKey } from './intake';
import { csvText, putLoose, putZip, smallSchool } from './roster-files';

const zipped = (tables: Record<string, string[][]>) =>
	Object.fromEntries(Object.entries(tables).map(([name, rows]) => [name, csvText(rows)]));

describe('the folder that is watched for rosters', () => {
	let school: TestSchool;
	let folder: string;
	beforeEach(async () => {
		school = await testSchool();
		folder = join(school.folder, 'incoming');
		mkdirSync(folder);
	});
	afterEach(() => school.close());

	it('gives what was the same at two looks, once; what is being written, or is called unfinished, never', async () => {
		const watched = watchedFolder(folder);
		expect(await watched.ready()).to.equal(null);
		writeFileSync(join(folder, 'a.zip'), 'half');
		writeFileSync(join(folder, '.hidden.zip'), 'x');
		writeFileSync(join(folder, 'b.zip.part'), 'x');
		expect(await watched.ready()).to.equal(null);
		writeFileSync(join(folder, 'a.zip'), 'half and more');
		expect(await watched.ready()).to.equal(null);
		expect(await watched.ready()).to.deep.equal(['a.zip']);
		expect(await watched.ready()).to.equal(null);
		rmSync(join(folder, 'a.zip'));
		putLoose(folder, { 'users.csv': [['a']], 'orgs.csv': [['a']] });
		expect(await watched.ready()).to.equal(null);
		expect(await watched.ready()).to.deep.equal(['orgs.csv', 'users.csv']);
	});

	const house = () => ({ db: school.db, dataFolder: school.folder, key: testKey });
	const night = async (tables: Record<string, string[][]>) => {
		await putZip(join(folder, 'tonight.zip'), zipped(tables));
		return bringFrom(house(), folder, ['tonight.zip']);
	};
	const letters = () =>
		school.db.all<{ subject: string; text: string }>(
			`SELECT subject, text FROM notice WHERE kind = 'roster' ORDER BY id`
		);
	const email = (value: string) => {
		const tables = smallSchool();
		const users = tables['users.csv']!;
		users.find((r) => r[0] === 'u-bao')![users[0]!.indexOf('email')] = value;
		return tables;
	};

	it('a clean file comes in by itself and is reported, once; the same again is nothing', async () => {
		await bring(school, smallSchool());
		expect(await night(email('bao@islandpost.example'))).to.equal(true);
		expect(await bringFrom(house(), folder, ['tonight.zip'])).to.equal(false);
		expect(
			await school.db.all(`SELECT value FROM address WHERE value LIKE 'bao@%'`)
		).to.have.length(1);
		expect(await reportRosters(school.db, 'http://x.example')).to.equal(1);
		expect(await reportRosters(school.db, 'http://x.example')).to.equal(0);
		expect((await letters()).map((l) => l.subject)).to.deep.equal([
			'The roster came in: 0 new, 1 changed, 0 gone'
		]);
	});

	it('the first of a source, and one with new wrong lines, waits and says why; known ones do not hold it', async () => {
		expect(await night(smallSchool())).to.equal(false);
		expect((await waitingFiles(school.db)).map((f) => f.state)).to.deep.equal(['looked']);
		const wrong = email('kelp garden');
		await bring(school, wrong);
		const again = email('kelp garden');
		again['orgs.csv']!.find((r) => r[0] === 'o-heron')![3] = 'Heron Landing School';
		// By hand it was taken in under its own source; the folder belongs to the first.
		await school.db.run(`UPDATE roster_file SET source_id = 1`);
		await school.db.run(`UPDATE roster_line SET source_id = 1`);
		await school.db.run(`UPDATE known_as SET source_id = 1`);
		await school.db.run(
			`UPDATE roster_source SET applied_on = (SELECT max(applied_on) FROM roster_source)`
		);
		expect(await night(again)).to.equal(true);
		const fresh = email('kelp garden');
		fresh['users.csv']!.find((r) => r[0] === 'u-thu')![8] = '';
		expect(await night(fresh)).to.equal(false);
		await reportRosters(school.db, 'http://x.example');
		expect((await letters()).map((l) => l.text.split('\n')[0])).to.deep.equal([
			'tonight.zip did not come in by itself, since it is the first of its source.',
			'tonight.zip: 0 new, 1 changed, 0 gone.',
			'tonight.zip did not come in by itself, since it has lines that are wrong.'
		]);
	});

	it('a file that cannot be read changes nothing and waits under its reason', async () => {
		writeFileSync(join(folder, 'broken.zip'), 'PK\x03\x04 and no more');
		expect(await bringFrom(house(), folder, ['broken.zip'])).to.equal(false);
		const [waiting] = await waitingFiles(school.db);
		expect(waiting).to.include({ state: 'refused', by: null });
		expect(waiting!.why).to.match(/cut off or broken/);
		await reportRosters(school.db, 'http://x.example');
		expect((await letters())[0]!.subject).to.equal('The roster broken.zip cannot be read');
	});

	it('too much at once and open questions hold it', () => {
		const looked = {
			faults: [],
			questions: 1,
			shares: [{ of: 'students' as const, touched: 30, known: 200 }],
			mostShare: 0.1
		};
		const fine = { ...looked, questions: 0, shares: [] };
		const last = fine as never;
		expect(whyNotByItself(looked as never, last)).to.deep.equal(['questions', 'too-much']);
		expect(whyNotByItself(fine as never, last)).to.deep.equal([]);
		expect(whyNotByItself({ ...fine, faults: null } as never, last)).to.deep.equal(['wrong']);
	});
});
