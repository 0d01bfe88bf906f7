import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect } from 'chai';
import { placeCards } from '../../../../../src/lib/server/desk/places/cards';
import { readColumns, sayColumns } from '../../../../../src/lib/server/desk/roster/columns';
import { addFile } from '../../../../../src/lib/server/desk/roster/files';
import { tablesFolder } from '../../../../../src/lib/server/desk/roster/look-file';
import { sourceNamed } from '../../../../../src/lib/server/desk/roster/sources';
import { takeIn } from '../../../../../src/lib/server/desk/roster/take-in';
import { wrongLines } from '../../../../../src/lib/server/desk/roster/views';
import { coordinator, testSchool, type TestSchool } from '../../database';
import { everything, lookAgain, testKey } from './intake';

describe('cards (vCard) come in as contacts', () => {
	let school: TestSchool;
	beforeEach(async () => (school = await testSchool()));
	afterEach(() => school.close());

	/** Brings a file of cards, with its columns as they are proposed, and looks at it. */
	async function bring(cards: string) {
		const { db, folder } = school;
		const { id: sourceId } = await sourceNamed(db, 'Address book', 'list');
		const id = await addFile(db, folder, sourceId, 'people.vcf', coordinator.personId);
		writeFileSync(join(tablesFolder(folder, id), 'people.vcf'), cards);
		const asked = await lookAgain(school, id);
		if (asked.row.state !== 'columns') return asked;
		const { columns } = readColumns(asked.row.columns)!;
		await sayColumns(db, coordinator, id, { columns: [...columns], complete: false });
		return lookAgain(school, id);
	}

	it('of the students they name as their children; what cannot be used is said alone', async () => {
		const file = await bring(
			[
				'BEGIN:VCARD\r\nVERSION:4.0\r\nUID:urn:uuid:1\r\nFN:Samira Haddad\r\nN:Haddad;Samira;;;',
				'EMAIL:samira@islandpost.example\r\nTEL;TYPE="cell,voice";VALUE=uri:tel:+1-207-555-0144\r\nLANG:ar',
				'RELATED;TYPE=child;VALUE=text:Linh Pham\r\nRELATED;TYPE=child;VALUE=text:Ana Amaro\r\nEND:VCARD',
				'BEGIN:VCARD\r\nVERSION:4.0\r\nFN:Nobody’s\r\nEND:VCARD',
				'BEGIN:VCARD\r\nVERSION:2.1\r\nFN:Old\r\nEND:VCARD'
			].join('\r\n')
		);
		expect(file.looked.counts.new).to.include({ people: 1, contacts: 2 });
		const wrong = (await wrongLines(school.folder, file.id, { search: '', page: 1 }))!.lines;
		expect(wrong.map((l) => l.text)).to.deep.equal([
			'Student: full name is empty.',
			'The card stays out: its version is 2.1; 3.0 and 4.0 are read. Save it anew in one of them.'
		]);
		const house = { db: school.db, dataFolder: school.folder, key: testKey };
		const taken = await takeIn(house, file.id, { user: coordinator, typed: null }, () => {});
		expect(taken.ok).to.equal(true);
		expect(
			await school.db.all(
				`SELECT student_id AS student, relation, custody, language FROM contact_now
				JOIN person ON person.id = person_id WHERE family_name = 'Haddad' ORDER BY student_id`
			)
		).to.deep.equal([
			{ student: 1, relation: 'contact', custody: null, language: 'ar' },
			{ student: 3, relation: 'contact', custody: null, language: 'ar' }
		]);
		// A number on a card is no consent to texts.
		expect(
			await school.db.one(`SELECT consent FROM address WHERE value = '+12075550144'`)
		).to.deep.equal({ consent: 'unknown' });
	});

	it('cards that went out of a place change nothing: 0 new, 0 changed, 0 gone', async () => {
		const before = await everything(school.db);
		const out = await placeCards({ db: school.db, key: testKey }, coordinator, 'school-1');
		const { looked } = await bring(out!.cards);
		expect(looked.wrong).to.equal(0);
		for (const kind of ['new', 'changed', 'gone'] as const)
			expect(
				Object.values(looked.counts[kind]).every((n) => n === 0),
				kind
			).to.equal(true);
		expect(await everything(school.db)).to.deep.equal(before);
	});

	it('a file without a card, or of something else, changes nothing', async () => {
		for (const text of ['', 'BEGIN:VCALENDAR\r\nEND:VCALENDAR\r\n', 'name,email\r\na,b\r\n']) {
			const file = await bring(text);
			expect(file.row.state).to.equal('refused');
			expect(file.row.why).to.contain('holds no card');
		}
	});
});
