import { expect } from 'chai';
import { joinLanguages, joinPhrases } from '../../../../../src/lib/core/copy/join-phrases';
import { joiningSheet } from '../../../../../src/lib/server/desk/joining/sheet-pdf';
import type { WaysIn } from '../../../../../src/lib/server/desk/joining/types';
import { readPdf } from '../../read-pdf';

const ways: WaysIn = {
	group: 'Kelp Garden',
	district: 'Brackwater Isles School District',
	code: 'KELP',
	number: '+1 207 555 0100',
	mail: 'join-kelp@return.brackwater.example',
	link: 'https://courier.brackwater.example/join/kelp',
	until: '2027-05-28',
	languages: ['en', 'es', 'pt', 'vi', 'ar']
};

describe('the sheet of an open group', () => {
	it('says on one page, in each language, what to type for each way; its square opens the page', async () => {
		const { words, codes, size } = readPdf(await joiningSheet(ways, 'letter'));
		expect(size).to.equal('612 x 792 pts (letter)');
		expect(words).to.have.length(1);
		expect(codes).to.deep.equal([ways.link]);
		const page = words[0]!.replace(/\s+/g, ' ');
		for (const said of [ways.group, ways.code, ways.number!, ways.mail, ways.link, 'May 28, 2027'])
			expect(page).to.contain(said);
		for (const tag of ['en', 'es', 'pt', 'vi'])
			for (const name of ['byText', 'byMail', 'byLink', 'then'] as const)
				expect(page, `${tag} ${name}`).to.contain(joinPhrases(tag)[name]);
		expect(joinLanguages).to.have.length(5);
	});

	it('has room on the other paper for long names, and no line for a number that nobody can write to', async () => {
		const long = {
			...ways,
			group: 'Families and friends of the winter concert choirs of all schools'
		};
		const { words, size } = readPdf(
			await joiningSheet({ ...long, code: 'WINTERSONGS7', number: null, until: null }, 'a4')
		);
		expect(size).to.contain('A4');
		expect(words).to.have.length(1);
		expect(words[0]).to.contain('WINTERSONGS7').and.not.to.contain(joinPhrases('en').byText);
		expect(readPdf(await joiningSheet(long, 'letter')).words).to.have.length(1);
	});
});
