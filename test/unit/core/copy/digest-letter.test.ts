import { plainLetterhead } from '../../../../src/lib/core/copy/letterhead';
import { expect } from 'chai';
import { digestLetter } from '../../../../src/lib/core/copy/digest-letter';
import { digestPhrases } from '../../../../src/lib/core/copy/digest-phrases';
import type { EmailParts } from '../../../../src/lib/core/copy/letter';

const parts = (n: number, over: Partial<EmailParts> = {}): EmailParts => {
	const link = `https://x.example/f/t${n}`;
	return {
		...{ subject: `Subject <${n}>`, language: 'en', pictureIds: [7, n] },
		stopLink: `${link}/stop`,
		page: {
			...{ language: 'en', direction: 'ltr', subject: `Subject <${n}>`, head: 'School', about: '' },
			...{ body: `<p>Words ${n}</p>`, lines: [], signature: { name: 'Maren Quill', line: '' } },
			...{ files: [], filesWords: 'Files', read: { words: 'Open', href: link } },
			...{ stop: { words: 'No more', href: `${link}/stop` }, dot: `${link}/dot.gif` },
			letterhead: plainLetterhead
		},
		plain: [`Words ${n}`, `Open:\n${link}`],
		...over
	};
};
const frame = {
	language: 'ar',
	district: 'Isles & Sons',
	choicesLink: 'https://x.example/f/t1/choices',
	letterhead: {
		...plainLetterhead,
		...{ logo: { fileId: 9, width: 640, height: 96 }, alt: 'Isles & Sons', footer: ['Quay 1'] }
	}
};

describe('a digest as an email', () => {
	it('says first what is in it, and has each letter whole, in its own language and direction, and nothing in it is run', () => {
		const arabic = parts(2, { language: 'ar' });
		const letter = digestLetter(
			[
				parts(1, { stopLink: null }),
				{ ...arabic, page: { ...arabic.page, direction: 'rtl', about: 'Ana' } }
			],
			frame
		);
		expect(letter).to.include({ language: 'ar', stopLink: 'https://x.example/f/t2/stop' });
		expect(letter.subject).to.contain('Isles & Sons');
		expect(letter.pictureIds).to.deep.equal([7, 1, 2]);
		// What the district puts around it stands once, around all of them.
		expect(letter.html.split('alt="Isles &amp; Sons"')).to.have.length(2);
		expect(letter.html.split('Quay 1')).to.have.length(2);
		expect(letter.text.trimEnd().endsWith('Quay 1')).to.equal(true);
		expect(letter.html).to.contain('<html lang="ar" dir="rtl">');
		expect(letter.html).to.contain(
			'<li><bdi>Subject &lt;1&gt;</bdi></li><li><bdi>Subject &lt;2&gt; (Ana)</bdi></li>'
		);
		expect(letter.html).to.match(
			/<div lang="en" dir="ltr".*Words 1.*<div lang="ar" dir="rtl".*Words 2/s
		);
		for (const n of [1, 2])
			expect(letter.html).to.contain(`src="https://x.example/f/t${n}/dot.gif"`);
		expect(letter.html).to.not.contain('No more').and.not.contain('<1>');
		expect(letter.text).to.equal(
			[
				`${digestPhrases('ar').intro}\n1. Subject <1>\n2. Subject <2> (Ana)`,
				digestPhrases('ar').answer,
				...['* * *', 'Subject <1>', 'Words 1', 'Open:\nhttps://x.example/f/t1'],
				...['* * *', 'Subject <2>', 'Words 2', 'Open:\nhttps://x.example/f/t2'],
				...['* * *', `${digestPhrases('ar').change}:\nhttps://x.example/f/t1/choices`],
				'Quay 1\n'
			].join('\n\n')
		);
	});

	it('offers to stop nothing where nothing in it can be stopped', () => {
		const kept = parts(1, { stopLink: null });
		expect(digestLetter([kept, kept], frame).stopLink).to.equal(null);
	});
});
