import { expect } from 'chai';
import { asksByText, asksHtml, asksText, pageAsks } from '../../../../src/lib/core/copy/asks';
import { comingFault } from '../../../../src/lib/core/copy/coming-fault';
import { comingWords } from '../../../../src/lib/core/copy/coming-phrases';
import { lettersOf } from '../../../../src/lib/core/copy/letter';
import { momentIn } from '../../../../src/lib/core/copy/moment-in';
import { measureText } from '../../../../src/lib/core/copy/segments';
import { wordingOf } from '../../../../src/lib/core/copy/words';
import { readComing } from '../../../../src/lib/core/talk/coming';

const until = Date.parse('2027-03-12T22:00:00Z');
const asks = { until, zone: 'America/New_York', byText: true } as const;
const link = 'https://c.example/f/abc';

describe('what a letter asks', () => {
	it('stands in mail as a question, until when, and a link for each answer', () => {
		const said = pageAsks(asks, 'en', link)!;
		expect(said.until).to.match(/^Answer until Fri, Mar 12, 5:00\sPM\.$/);
		expect(asksHtml(said, '#0f5c63')).to.include('href="https://c.example/f/abc?coming=no"');
		expect(asksText(said)).to.match(
			/^Are you coming\? Answer until .*\nYes, we come:\nhttps:.*coming=yes\n/
		);
		// In a language of another direction and other digits.
		expect(pageAsks(asks, 'ar', link)!.question).to.equal(comingWords.ar!.question);
		expect(pageAsks(null, 'en', link)).to.equal(null);
	});

	it('an email and a text of it say so, and one that asks nothing does not', () => {
		const frame = {
			...{ signature: { name: 'Maren Quill', line: '' }, zone: asks.zone, leavesAt: 0, files: [] },
			...{ sectionBefore: false, sectionLine: false, trace: null },
			letterhead: { logo: null, alt: '', colour: '#0f5c63', footer: [] }
		};
		const copy = {
			facts: { given: 'Ana', full: 'Ana A', students: [] },
			language: 'en',
			link,
			mayStop: false
		};
		const wording = wordingOf('Concert', 'At seven.');
		const asked = lettersOf(wording, { ...frame, asks });
		expect(asked.email(copy).text).to.include('Are you coming?');
		expect(asked.email(copy).html).to.include('?coming=yes');
		expect(asked.text(copy)).to.equal(
			`Concert. At seven. - Maren Quill\nComing? Text back YES and how many, or NO.\n${link}`
		);
		const timed = lettersOf(wording, { ...frame, asks: { ...asks, byText: false } });
		expect(timed.text(copy)).to.not.include('Coming?');
		expect(lettersOf(wording, frame).email(copy).text).to.not.include('coming');
	});

	it('what a text asks for is understood when it comes back, in each language', () => {
		for (const [tag, { byText }] of Object.entries(comingWords)) {
			// The words in capitals, or those the Arabic names, are what is typed.
			const [yes, no] =
				tag === 'ar' ? ['نعم', 'لا'] : (byText.match(/\p{Lu}{2,}/gu) as [string, string]);
			expect(readComing(`${yes} 2`), `${tag}: ${yes}`).to.deep.equal({ comes: true, people: 2 });
			expect(readComing(no), `${tag}: ${no}`).to.include({ comes: false });
			expect(asksByText(asks, tag)).to.equal(byText);
		}
		expect(measureText(comingWords.en!.byText).parts).to.equal(1);
	});

	it('each reason has its words in each language, with the number that it speaks of', () => {
		for (const tag of Object.keys(comingWords)) {
			expect(comingFault('too-many', tag, 4)).to.include('4');
			for (const why of ['no-room', 'closed', 'gone', 'no-slot', 'too-often', 'wait'] as const)
				expect(comingFault(why, tag, 4))
					.to.have.length.above(5)
					.and.not.include('{');
		}
	});

	// ECMA-402 formats by CLDR: day and month stand as the language writes them.
	it('a moment is said in the language, by the clock of the place', () => {
		expect(momentIn({ language: 'en', zone: asks.zone, style: '24' }, until)).to.equal(
			'Fri, Mar 12, 17:00'
		);
		expect(momentIn({ language: 'pt', zone: 'Europe/Lisbon' }, until)).to.match(/12 de mar.*22:00/);
	});
});
