import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import type { ListField } from '../../../../../src/lib/core/roster/list/fields';
import { readRoster } from '../../../../../src/lib/server/db/roster';
import { rosterFile } from '../../../../../src/lib/server/db/models/rosters';
import { saySame } from '../../../../../src/lib/server/desk/roster/answers';
import {
	askColumns,
	readColumns,
	sayColumns
} from '../../../../../src/lib/server/desk/roster/columns';
import { addFile, beginFile } from '../../../../../src/lib/server/desk/roster/files';
import { tablesFolder } from '../../../../../src/lib/server/desk/roster/look-file';
import { sourceNamed } from '../../../../../src/lib/server/desk/roster/sources';
import { takeBack } from '../../../../../src/lib/server/desk/roster/take-back';
import { takeIn } from '../../../../../src/lib/server/desk/roster/take-in';
import { linesToMend } from '../../../../../src/lib/server/desk/roster/to-mend';
import {
	changeLines,
	openQuestions,
	wrongLines
} from '../../../../../src/lib/server/desk/roster/views';
import { takeTexts } from '../../../../../src/lib/server/desk/replies/take-texts';
import { coordinator, teacher, testSchool, type TestSchool } from '../../database';
import { everything, lookAgain, testKey, type LookedFile } from './intake';
import { rawZip } from './raw-zip';
import { writeXlsx } from './xlsx';

const columns: readonly (ListField | null)[] = [
	...([
		'studentNumber',
		'name',
		'relation',
		'custody',
		'language',
		'email',
		'sms',
		'texts'
	] as const),
	...(['textsSince', 'livesWith'] as const)
];
const heading =
	'Student ID,Contact name,Relationship,Custody,Language,Email,Cell,SMS opt in,Opt in date,Lives with';
const listOf = (...lines: string[]) => [heading, ...lines].join('\r\n');
const samira =
	'4713,Samira Haddad,Aunt,,Arabic,samira@islandpost.example,207-555-0144,yes,2026-09-01,yes';
const delfina = '4711,Delfina Amaro,Mother,no,,,,,,';

describe('a contact list comes in', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchool();
		await school.db.run(`UPDATE person SET identifier = '471' || id WHERE kind = 'student'`);
	});
	afterEach(() => school.close());
	const house = () => ({ db: school.db, dataFolder: school.folder, key: testKey });

	/** Brings a list as a file of its own. */
	async function bring(
		content: string | Buffer | ((path: string) => Promise<void>),
		name = 'contacts.csv'
	): Promise<LookedFile> {
		const { id: sourceId } = await sourceNamed(school.db, 'Office lists', 'list');
		const id = await addFile(school.db, school.folder, sourceId, name, coordinator.personId);
		const path = join(tablesFolder(school.folder, id), name);
		if (typeof content === 'function') await content(path);
		else writeFileSync(path, content);
		return lookAgain(school, id);
	}
	const say = async (id: number, complete = false, are = columns) =>
		sayColumns(school.db, coordinator, id, { columns: [...are], complete });
	const taken = (id: number, typed: number | null = null) =>
		takeIn(house(), id, { user: coordinator, typed }, () => {});
	const wrong = async (id: number) =>
		(await wrongLines(school.folder, id, { search: '', page: 1 }))!.lines.map((l) => [
			l.line,
			l.text
		]);

	it('its columns are asked once, and remembered for the next of the same heading', async () => {
		const file = await bring(listOf(samira));
		expect(file.row.state).to.equal('columns');
		const view = readColumns(file.row.columns)!;
		expect(view).to.deep.include({ columns, said: false });
		expect(view.examples).to.have.length(1);
		expect(
			(await sayColumns(school.db, teacher, file.id, { columns: [...columns], complete: false })).ok
		).to.equal(false);
		const none = await say(
			file.id,
			false,
			columns.map(() => null)
		);
		expect(none).to.deep.include({ ok: false });
		expect((await say(file.id)).ok).to.equal(true);
		const looked = await lookAgain(school, file.id);
		expect(looked.looked.counts.new).to.include({ people: 1, contacts: 1 });
		const next = await bring(listOf(samira).replace('Student ID', 'STUDENT id'));
		expect(next.row.state).to.equal('looked');
		expect((await askColumns(school.db, coordinator, next.id)).ok).to.equal(true);
		expect((await school.db.rows(rosterFile).one({ id: next.id }))!.state).to.equal('columns');
	});

	it('brings relation, custody, language, household and consent with its day; and goes back as it was', async () => {
		const before = await everything(school.db);
		const { id } = await bring(listOf(samira, delfina));
		await say(id);
		const { looked } = await lookAgain(school, id);
		expect(looked).to.include({ wrong: 0, questions: 1, sameTies: 1 });
		const [question] = (await openQuestions(school.folder, id, 'tie'))!;
		expect(question).to.deep.include({
			shared: 'contact of Ana',
			here: { personId: 10, name: 'Delfina Amaro', note: 'mother' }
		});
		await saySame(school.db, coordinator, id, [{ key: question!.key, personId: 10, same: true }]);
		const again = await lookAgain(school, id);
		expect(again.looked.counts.changed.contacts).to.equal(1);
		expect(await taken(id)).to.deep.equal({ ok: true });
		const roster = await readRoster(school.db);
		const aunt = roster.contactsOf(3).find((c) => c.relation === 'aunt')!;
		expect(aunt).to.include({ guardian: false, custody: null, correspondence: true });
		expect(roster.person(aunt.personId)).to.include({ language: 'ar', givenName: 'Samira' });
		expect(roster.householdsOf(aunt.personId)).to.deep.equal(roster.householdsOf(3));
		expect(
			await school.db.one(
				`SELECT value, consent, consent_how AS how, consent_said AS said, consent_at AS at FROM address WHERE way = 'text' AND person_id = $id`,
				{ id: aunt.personId }
			)
		).to.deep.equal({
			...{ value: '+12075550144', consent: 'in', how: 'list', said: 'Office lists' },
			at: Date.parse('2026-09-01')
		});
		// Of one student, not of the other: a list speaks of the tie.
		expect(roster.contactsOf(1).find((c) => c.personId === 10)!.custody).to.equal(false);
		expect(roster.contactsOf(2).find((c) => c.personId === 10)!.custody).to.equal(true);
		expect(
			await school.db.all(
				`SELECT field, before, after FROM person_change WHERE person_id = 10 AND about_id = 1`
			)
		).to.deep.equal([{ field: 'custody', before: 'yes', after: 'no' }]);
		await takeBack(school.db, coordinator, id);
		expect(await everything(school.db)).to.deep.equal(before);
	});

	it('a list that adds ends nobody; a complete one ends ties, and nobody’s person', async () => {
		const two = listOf(samira, '4713,Bo Lund,Neighbour,,,bo@islandpost.example,,,,');
		const { id } = await bring(two);
		await say(id);
		await lookAgain(school, id);
		await taken(id);
		const adds = await bring(listOf('4712,Ida Sund,Coach,,,,,,,'));
		expect(adds.looked.counts.gone.contacts).to.equal(0);
		await say(adds.id, true);
		const whole = await lookAgain(school, adds.id);
		expect(whole.looked.counts.gone).to.include({ contacts: 2, people: 0 });
		const gone = (await changeLines(school.folder, adds.id, {
			...{ what: 'gone', tab: 'contacts', search: '', page: 1 }
		}))!;
		expect(gone.lines.map((l) => l.title)).to.have.members(['Samira Haddad', 'Bo Lund']);
		await taken(adds.id);
		const roster = await readRoster(school.db);
		expect(roster.contactsOf(3).map((c) => c.relation)).to.deep.equal(['father']);
		expect(
			await school.db.one(`SELECT gone_at AS gone FROM person WHERE given_name = 'Samira'`)
		).to.deep.equal({ gone: null });
	});

	it('a student who is not here, or may be several, keeps the line out with the reason', async () => {
		await school.db.run(
			`INSERT INTO person (id, kind, given_name, family_name, language, school_id, grade_level, has_inbox) VALUES (4, 'student', 'Ana', 'Amaro', 'pt', 1, '9', 0)`
		);
		const { id } = await bring(
			[
				'Student,Grade,Contact,Relationship',
				'"Amaro, Ana",,Ida Sund,aunt',
				'Ana Amaro,9,Ida Sund,aunt',
				'Nobody Here,,Ida Sund,aunt'
			].join('\n')
		);
		await say(id, false, ['studentName', 'studentGrade', 'name', 'relation']);
		await lookAgain(school, id);
		expect(await wrong(id)).to.deep.equal([
			[2, '2 students are “Amaro, Ana”. Say which by number, grade or school.'],
			[4, 'No student here is “Nobody Here”. Bring the roster first, or correct it.']
		]);
		const [file] = (await linesToMend(school.folder, id, { version: 'list', at: '' }))!;
		expect(file!.text.split(/\r?\n/)[0]).to.equal('Student,Grade,Contact,Relationship,whatIsWrong');
		await taken(id);
		expect((await readRoster(school.db)).contactsOf(4)).to.have.length(1);
		// Mended, they come in as a part, whatever the list was; the column of ours is passed over.
		const mended = await bring(file!.text.replace('Nobody Here', 'Rui Amaro'), 'mended.csv');
		expect(mended.row.state).to.equal('looked');
		expect(mended.looked.counts).to.deep.include({
			gone: { people: 0, contacts: 0, enrolments: 0, sections: 0, staff: 0 }
		});
	});

	it('a list that does not say it leaves relation and guardian as they are here', async () => {
		await school.db.run(
			`UPDATE contact SET relation = 'grandmother', guardian = 1 WHERE student_id = 3`
		);
		const { id } = await bring('Student ID,Contact name,Emergency contact\n4713,Bao Pham,yes\n');
		await say(id, false, ['studentNumber', 'name', 'emergency']);
		const looked = await lookAgain(school, id);
		const [question] = (await openQuestions(school.folder, looked.id, 'tie'))!;
		await saySame(school.db, coordinator, id, [{ key: question!.key, personId: 12, same: true }]);
		await lookAgain(school, id);
		await taken(id);
		expect((await readRoster(school.db)).contactsOf(3)).to.deep.equal([
			{
				...{ studentId: 3, personId: 12, relation: 'grandmother', guardian: true },
				...{ custody: true, correspondence: true, emergency: true }
			}
		]);
	});

	it('no list opts a number in again that said STOP', async () => {
		await school.db.write((tx) =>
			takeTexts(tx, [{ from: '+12075550144', to: '12075550100', words: 'STOP' }])
		);
		const { id } = await bring(listOf(samira));
		await say(id);
		await lookAgain(school, id);
		await taken(id);
		expect(
			await school.db.one(
				`SELECT consent, consent_how AS how FROM address WHERE value = '+12075550144'`
			)
		).to.deep.equal({ consent: 'out', how: 'text' });
	});

	it('is read whatever program saved it, and refused in words where it is none', async () => {
		const rows = listOf(samira)
			.split('\r\n')
			.map((line) => line.split(','));
		const semicolons = rows.map((r) => r.join(';')).join('\n');
		const wide = Buffer.from(`\ufeff${rows.map((r) => r.join('\t')).join('\n')}`, 'utf16le');
		for (const [content, name] of [
			[semicolons, 'list.csv'],
			[wide, 'list.txt'],
			[(path: string) => writeXlsx(path, rows), 'list.xlsx']
		] as const) {
			const file = await bring(content, name);
			const view = readColumns(file.row.columns);
			expect(view?.columns, name).to.deep.equal(columns);
			expect(view?.examples[0]?.slice(0, 2), name).to.deep.equal(['4713', 'Samira Haddad']);
		}
		const numbers = [
			['Student ID', 'Contact name', 'Relationship'],
			[4713, 'Ida Sund', 'aunt']
		];
		const sheet = await bring((path) => writeXlsx(path, numbers), 'numbers.xlsx');
		expect(readColumns(sheet.row.columns)!.examples).to.deep.equal([['4713', 'Ida Sund', 'aunt']]);
		const refused = [
			['one column\nx\n', 'a.csv', 'at least two columns'],
			['a,b\n"never closed\n', 'b.csv', 'never closed'],
			[Buffer.from([0, 1, 2, 3, 0, 0]), 'c.csv', 'is no text'],
			['a,b\n1,2\n', 'd.xlsx', 'is no workbook'],
			[Buffer.from('PK\u0003\u0004 and then nothing'), 'e.xlsx', 'cut off or broken'],
			[Buffer.from('PK\u0003\u0004 and then nothing'), 'f.csv', 'whatever its name says'],
			['', 'g.csv', 'is no list']
		] as const;
		for (const [content, name, words] of refused) {
			const file = await bring(content, name);
			expect(file.row.state, name).to.equal('refused');
			expect(file.row.why, name).to.contain(words);
		}
	});

	it('a workbook that unpacks to more than it says, or than any list has, is refused unread', async () => {
		const sheet = Buffer.alloc(20_000_000, '<');
		const name = 'xl/worksheets/sheet1.xml';
		for (const [entry, words] of [
			[{ name, data: sheet }, 'that is no roster'],
			// The list at the end says a kilobyte; what is in it is twenty thousand times as much.
			[{ name, data: sheet, size: 1_000 }, 'breaks off while it is unpacked'],
			[{ name: '../../link.key', data: Buffer.from('x') }, 'leads out of it']
		] as const) {
			const file = await bring(rawZip([entry]), 'bomb.xlsx');
			expect(file.row.state).to.equal('refused');
			expect(file.row.why).to.match(new RegExp(words));
		}
	});

	it('a list whose file is gone with a database that was put back says so', async () => {
		const { id } = await bring(listOf(samira));
		rmSync(tablesFolder(school.folder, id), { recursive: true });
		await say(id);
		const { row } = await lookAgain(school, id);
		expect(row).to.include({
			state: 'refused',
			why: 'The files of this roster are no longer here. Bring it once more.'
		});
	});

	it('lists and rosters come from sources of their own', async () => {
		await sourceNamed(school.db, 'Student records');
		const begun = await beginFile(school.db, school.folder, coordinator, {
			...{ source: 'Student records', name: 'contacts.xlsx', bytes: 10 }
		});
		expect(begun).to.deep.include({ ok: false });
	});
});
