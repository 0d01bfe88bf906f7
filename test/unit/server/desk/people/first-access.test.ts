import { expect } from 'chai';
import { openLink } from '../../../../../src/lib/server/access/private-link';
import {
	firstAccessSheets,
	sheetsWanted,
	type SheetsOf
} from '../../../../../src/lib/server/desk/people/first-access';
import {
	as,
	coordinator,
	office,
	teacher,
	testSchoolWithOffice,
	type TestSchool
} from '../../database';
import { readPdf } from '../../read-pdf';

const key = Buffer.alloc(32, 7);
const publicUrl = 'https://courier.brackwater.example';

describe('sheets of paper with the way to the inbox', () => {
	let school: TestSchool;
	beforeEach(async () => {
		school = await testSchoolWithOffice();
		// Linh's father has an inbox alone; Ana's mother has addresses.
		await school.db.run('DELETE FROM address WHERE person_id = 12');
	});
	afterEach(() => school.close());
	const make = (of: SheetsOf, user = office, paper: 'letter' | 'a4' = 'letter') =>
		firstAccessSheets({ db: school.db, key, publicUrl }, user, of, paper);

	it('for a section: one for each whom nothing but the inbox reaches, with a code that opens it', async () => {
		expect(await sheetsWanted(school.db, office, { sectionId: 100 })).to.equal(0);
		expect(await sheetsWanted(school.db, office, { sectionId: 101 })).to.equal(1);
		const { words, codes, size } = readPdf((await make({ sectionId: 101 }))!);
		expect(size).to.equal('612 x 792 pts (letter)');
		expect(words).to.have.length(1);
		for (const said of ['Bao Pham', 'Linh Pham', 'Đường vào hộp thư', '7 tháng 5, 2027'])
			expect(words[0]).to.contain(said);
		const [link] = codes;
		expect(link).to.match(/^https:\/\/courier\.brackwater\.example\/f\//);
		expect(words[0]!.replace(/\s/g, '')).to.contain(link);
		const opened = await openLink(school.db, link!.split('/f/')[1]!);
		expect(opened).to.deep.include({ ok: true, personId: 12 });
		const made = await school.db.one('SELECT made_by AS by FROM family_link WHERE person_id = 12');
		expect(made).to.deep.equal({ by: 95 });
	});

	it('in languages that run the other way, on the other paper, for anybody with an inbox', async () => {
		await school.db.run(`UPDATE person SET language = 'ar', family_name = 'حداد' WHERE id = 10`);
		const { words, codes, size } = readPdf((await make({ personId: 10 }, office, 'a4'))!);
		expect(size).to.contain('A4');
		expect(words[0]).to.contain('Ana Amaro, Rui Amaro').and.to.contain('2027-05-07');
		expect(words[0]).to.contain('الطريق إلى صندوق رسائلكم');
		expect(codes[0]).to.contain('/f/');
	});

	it('are the office’s to give: no teacher, no other school, nobody without an inbox', async () => {
		expect(await make({ sectionId: 101 }, teacher)).to.equal(null);
		expect(await make({ personId: 12 }, teacher)).to.equal(null);
		const away = as(office, 'office', 2);
		for (const of of [{ sectionId: 101 }, { personId: 12 }])
			expect(await make(of, away)).to.equal(null);
		expect(await make({ personId: 11 }, coordinator)).to.equal(null);
		const links = await school.db.one('SELECT count(*) AS n FROM family_link');
		expect(links).to.deep.equal({ n: 0 });
	});
});
