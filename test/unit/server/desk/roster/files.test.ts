import { existsSync } from 'node:fs';
import { expect } from 'chai';
import { rosterFile } from '../../../../../src/lib/server/db/models/rosters';
import {
	beginFile,
	giveUp,
	mostBytes,
	takePiece
} from '../../../../../src/lib/server/desk/roster/files';
import { lookAt } from '../../../../../src/lib/server/desk/roster/look';
import { rosterFolder } from '../../../../../src/lib/server/desk/roster/look-file';
import { linesToMend } from '../../../../../src/lib/server/desk/roster/to-mend';
import {
	changeLines,
	fileView,
	openQuestions,
	wrongLines
} from '../../../../../src/lib/server/desk/roster/views';
import { csvStream } from '../../../../../src/lib/server/desk/roster/write-zip';
import { coordinator, teacher, testSchool, type TestSchool } from '../../database';
import { bring, look, testKey } from './intake';
import { csvText, smallSchool, table } from './roster-files';

describe('a roster file that is brought', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
	});
	afterEach(() => school.close());
	const begin = (user = coordinator, bytes = 100) =>
		beginFile(school.db, school.folder, user, { source: 'Harbor', name: 'r.zip', bytes });
	const piece = (id: number, from: number, text: string, name = 'users.csv', user = coordinator) =>
		takePiece(school.db, school.folder, user, { id, name, from }, Buffer.from(text));

	it('comes in pieces, each behind the last; one that came already is passed over, a gap is refused', async () => {
		const begun = await begin();
		const id = begun.ok ? begun.id : 0;
		expect(await piece(id, 0, 'source')).to.deep.equal({ ok: true, bytes: 6 });
		expect(await piece(id, 0, 'source')).to.deep.equal({ ok: true, bytes: 6 });
		expect((await piece(id, 9, 'Id')).ok).to.equal(false);
		expect(await piece(id, 6, 'dId')).to.deep.equal({ ok: true, bytes: 9 });
	});

	it('only from the district office, only so large, only into a file that waits for it', async () => {
		expect((await begin(teacher)).ok).to.equal(false);
		const large = await begin(coordinator, mostBytes + 1);
		expect(large.ok ? '' : large.why).to.match(/“r\.zip” has 500 MB; 500 MB are taken/);
		const begun = await begin();
		const id = begun.ok ? begun.id : 0;
		expect((await piece(id, 0, 'x', 'users.csv', teacher)).ok).to.equal(false);
		expect((await piece(id + 1, 0, 'x')).ok).to.equal(false);
		for (let i = 0; i < 40; i += 1) await piece(id, 0, 'x', `t${i}.csv`);
		expect((await piece(id, 0, 'x', 't99.csv')).ok).to.equal(false);
		await giveUp(school.db, school.folder, coordinator, id);
		expect((await piece(id, 0, 'x')).ok).to.equal(false);
		expect(existsSync(rosterFolder(school.folder, id))).to.equal(false);
	});

	it('what was brought and taken in cannot be given up', async () => {
		const file = await bring(school, smallSchool());
		expect((await giveUp(school.db, school.folder, coordinator, file.id)).ok).to.equal(false);
	});

	it('what was seen is listed page by page and found by any word, old beside new', async () => {
		await bring(school, smallSchool());
		const changed = smallSchool();
		const users = changed['users.csv']!;
		const at = (name: string) => users[0]!.indexOf(name);
		users.find((r) => r[0] === 'u-bao')![at('email')] = 'bao@islandpost.example';
		users.find((r) => r[0] === 'u-linh')![at('grades')] = '05';
		users.find((r) => r[0] === 'u-thu')![at('phone')] = 'none';
		const file = await look(school, changed);
		const asked = { what: 'changed', tab: 'people', page: 1 } as const;
		const all = await changeLines(school.folder, file.id, { ...asked, search: '' });
		expect(all!.lines.map((l) => [l.line, l.title, l.was, l.will])).to.deep.equal([
			[3, 'Linh Pham', ['grade: 4'], ['grade: 5']],
			[5, 'Bao Pham', ['b.pham@ferrynet.example'], ['bao@islandpost.example']]
		]);
		const found = await changeLines(school.folder, file.id, { ...asked, search: 'ISLANDPOST bao' });
		expect(found!.lines.map((l) => l.title)).to.deep.equal(['Bao Pham']);
		const wrong = await wrongLines(school.folder, file.id, { search: '', page: 1 });
		expect(wrong!.lines.map((l) => [l.file, l.line, l.rest, l.cells[0]])).to.deep.equal([
			['users', 6, true, 'u-thu']
		]);
		expect(await openQuestions(school.folder, file.id)).to.deep.equal([]);
		expect(await fileView(school.db, file.id)).to.include({ state: 'looked', first: false });
		expect(await changeLines(school.folder, 99, { ...asked, search: '' })).to.equal(null);
	});

	it('wrong lines leave as changes to be mended, and mended they come in and touch nobody else', async () => {
		const broken = smallSchool();
		const users = broken['users.csv']!;
		users.find((r) => r[0] === 'u-ana')![users[0]!.indexOf('givenName')] = '';
		const file = await bring(school, broken);
		const files = (await linesToMend(school.folder, file.id, {
			version: '1.1',
			at: '2027-03-09T12:00:00Z'
		}))!;
		expect(files.map((f) => f.name)).to.deep.equal(['manifest.csv', 'users.csv']);
		const begun = await begin();
		const id = begun.ok ? begun.id : 0;
		await school.db.run(`UPDATE roster_file SET source_id = ${file.row.sourceId} WHERE id = ${id}`);
		for (const { name, text } of files)
			await piece(
				id,
				0,
				text
					.replace('u-ana,,Ferreira', 'u-ana,Ana,Ferreira')
					.replace('u-ana,,,Ferreira', 'u-ana,,Ana,Ferreira'),
				name
			);
		await school.db.rows(rosterFile).change({ id }, { state: 'looking' });
		await lookAt({ db: school.db, dataFolder: school.folder, key: testKey }, id, () => {});
		const view = (await fileView(school.db, id))!;
		expect(view.why).to.equal(null);
		expect(view.looked!.counts.new.people).to.equal(1);
		expect(view.looked!.counts.gone.people).to.equal(0);
		expect(view.looked!.tables[0]!.unknown).to.deep.equal(['whatIsWrong']);
	});

	it('formulas in cells are guarded on their way out, and come in as they were', async () => {
		const guarded: string[] = [];
		for await (const part of csvStream(
			table('a,b', { a: '=HYPERLINK("x")', b: '+12075550143' }, { a: '@cmd', b: '-1+1' })
		))
			guarded.push(String(part));
		expect(guarded.join('')).to.equal(
			`a,b\r\n"'=HYPERLINK(""x"")",+12075550143\r\n'@cmd,'-1+1\r\n`
		);
		const tables = smallSchool();
		tables['users.csv']!.find((r) => r[0] === 'u-bao')![8] = '=1+1';
		await bring(school, tables);
		tables['users.csv']!.find((r) => r[0] === 'u-bao')![8] = `'=1+1`;
		expect((await look(school, tables)).looked.counts.changed.people).to.equal(0);
		expect(csvText([['=1']])).to.equal('=1\r\n');
	});
});
