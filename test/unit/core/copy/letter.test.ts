import { plainLetterhead } from '../../../../src/lib/core/copy/letterhead';
import { expect } from 'chai';
import { languageDirection } from '../../../../src/lib/core/copy/direction';
import { lettersOf, type LetterFrame } from '../../../../src/lib/core/copy/letter';
import { sizeWords } from '../../../../src/lib/core/copy/size-words';
import { isOutOfDate } from '../../../../src/lib/core/copy/stale';
import { copyFacts, listIn, type StudentFacts } from '../../../../src/lib/core/copy/values';
import {
	languageTagSchema,
	putVariant,
	withOwn,
	withVariant,
	withWords,
	wordingOf,
	wordingSchema,
	wordsFor,
	type Variant
} from '../../../../src/lib/core/copy/words';

const frame: LetterFrame = {
	signature: { name: 'Maren Quill', line: 'Communications' },
	zone: 'America/New_York',
	leavesAt: Date.UTC(2027, 2, 10, 3, 30),
	sectionBefore: false,
	sectionLine: false,
	files: [],
	letterhead: plainLetterhead,
	trace: null
};
const student = (id: number, given: string, section: string | null): StudentFacts => ({
	id,
	given,
	full: `${given} Amaro`,
	grade: '7',
	school: 'Heron Landing',
	section: section ? { name: section, period: 'period 1', teachers: ['Chidi Okafor'] } : null,
	own: false
});
const facts = copyFacts({ givenName: 'Delfina', familyName: 'Amaro' }, [
	student(2, 'Rui', 'Drama 7-A'),
	student(1, 'Ana', 'Math 7-A')
]);
const copy = (language: string, over = {}) => ({
	facts,
	language,
	link: 'https://x.example/f/t',
	mayStop: true,
	...over
});
const variant = (language: string, subject: string, body: string): Variant => ({
	language,
	words: wordingOf(subject, body).words,
	checked: true,
	basis: wordingOf('Boats', 'x').words,
	off: false
});

describe('the copies of a dispatch', () => {
	it('say who it is about, fill the fields in, and name the sender and the link', () => {
		const letters = lettersOf(
			wordingOf('{{student}}: boats', 'Dear {{first_name}}, {{teacher}} in {{section}}.'),
			frame
		);
		const { subject, text, html, language } = letters.email(copy('en'));
		expect(subject).to.equal('Ana and Rui: boats');
		expect(language).to.equal('en');
		expect(text).to.equal(
			'Heron Landing · Maren Quill\nFor Ana and Rui\n\nDear Delfina, Chidi Okafor in Math 7-A and Drama 7-A.\n\n' +
				'Maren Quill\nCommunications\n\n' +
				'Read it in your inbox and say that you have seen it:\nhttps://x.example/f/t\n\n' +
				'No more of these by email:\nhttps://x.example/f/t/stop\n'
		);
		expect(html)
			.to.match(/^<!doctype html><html lang="en" dir="ltr">/)
			.and.contain('href="https://x.example/f/t"');
		expect(letters.inbox(copy('en')).html).to.contain('Dear Delfina, Chidi Okafor');
		expect(letters.text(copy('en'))).to.match(/^Ana and Rui: boats\. Dear Delfina,/);
	});

	it('go in the reader’s language where there is a wording in it (RFC 4647 lookup), else in the original', () => {
		let wording = putVariant(wordingOf('Boats', 'The boat.'), variant('pt', 'Barcos', 'O barco.'));
		wording = putVariant(wording, variant('ar', 'القوارب', 'القارب.'));
		const letters = lettersOf(wording, frame);
		expect(letters.email(copy('pt-BR')).subject).to.equal('Barcos');
		expect(letters.email(copy('pt-BR')).html).to.contain('lang="pt" dir="ltr"');
		expect(letters.email(copy('ar')).html).to.contain('lang="ar" dir="rtl"');
		expect(letters.inbox(copy('ar')).direction).to.equal('rtl');
		expect(letters.text(copy('ar'))).to.match(/^القوارب\. القارب/);
		expect(letters.email(copy('vi')).subject).to.equal('Boats');
		expect(
			wordsFor(
				withVariant(wording, 'pt', (v) => ({ ...v, off: true })),
				'pt'
			).language
		).to.equal('en');
	});

	it('name dates in the reader’s language and the district’s zone', () => {
		const wording = putVariant(
			wordingOf('x', '{{date:2027-03-12T14:15}} / {{today}}'),
			variant('es', 'x', '{{date:2027-03-12T14:15}} / {{today}}')
		);
		const letters = lettersOf(wording, frame);
		// 03:30 UTC on the 10th is the evening of the 9th in New York. Forms by CLDR, through the platform.
		expect(letters.email(copy('en')).text).to.match(
			/Friday, March 12, 2027 at 2:15\sPM \/ Tuesday, March 9, 2027/
		);
		expect(letters.email(copy('es')).text).to.match(
			/viernes, 12 de marzo de 2027, (a las )?14:15 \/ martes, 9 de marzo de 2027/
		);
		expect(listIn('pt', ['Ana', 'Rui', 'Lia'])).to.equal('Ana, Rui e Lia');
		expect(listIn('ar', ['ليلى', 'عمر'])).to.equal('ليلى وعمر');
	});

	it('have their own words by each way where they are given', () => {
		const base = wordingOf('Boats', 'The boat is late.');
		let words = withOwn(base.words, 'text', { text: '{{student}}: boat late', link: false });
		words = withOwn(words, 'inbox', wordingOf('Inbox', 'Only here.').words);
		const letters = lettersOf(withWords(base, 'en', words), frame);
		expect(letters.text(copy('en'))).to.equal('Ana and Rui: boat late - Maren Quill');
		expect(letters.inbox(copy('en')).subject).to.equal('Inbox');
		expect(letters.email(copy('en')).subject).to.equal('Boats');
		expect(withOwn(words, 'inbox', undefined).own).to.have.keys('text');
	});

	it('name the section before the subject and below the words, and hand out files by link', () => {
		const letters = lettersOf(wordingOf('Boats', 'Late.'), {
			...frame,
			sectionBefore: true,
			sectionLine: true,
			files: [
				{ fileId: 7, name: 'plan <b>.pdf', bytes: 240_400, mode: 'link' },
				{ fileId: 8, name: 'in.pdf', bytes: 10, mode: 'attach' }
			]
		});
		const email = letters.email(copy('en'));
		expect(email.subject).to.equal('[Math 7-A and Drama 7-A] Boats');
		expect(email.text)
			.to.contain('Math 7-A, period 1, Chidi Okafor\nDrama 7-A, period 1, Chidi Okafor')
			.and.contain('plan <b>.pdf (240 kB)\nhttps://x.example/f/t/file/7')
			.and.not.contain('in.pdf');
		expect(email.html).to.contain('plan &lt;b&gt;.pdf');
		expect([999, 1500, 3_450_000].map(sizeWords)).to.deep.equal(['999 B', '2 kB', '3.5 MB']);
	});

	it('keep a subject on one line whatever a name holds, and offer no stop where none is due', () => {
		const odd = copyFacts({ givenName: 'A\r\nBcc: x@y.example', familyName: 'B' }, []);
		const email = lettersOf(wordingOf('For {{first_name}}', 'x'), frame).email(
			copy('en', { facts: odd, mayStop: false })
		);
		expect(email.subject).to.equal('For A Bcc: x@y.example');
		expect(email.stopLink).to.equal(null);
		expect(email.text).not.to.contain('/stop');
	});

	it('know when a variant is out of date: the original says something else, however it is stored', () => {
		const wording = wordingOf('Boats', 'The boat.');
		const made = putVariant(wording, {
			...variant('pt', 'Barcos', 'O barco.'),
			basis: wording.words
		});
		const stored = wordingSchema.parse(JSON.parse(JSON.stringify(made)));
		expect(isOutOfDate(stored, stored.variants[0]!)).to.equal(false);
		for (const words of [
			wordingOf('Boats', 'The boat!').words,
			wordingOf('Boat', 'The boat.').words,
			withOwn(wording.words, 'text', { text: 'x', link: true })
		]) {
			expect(isOutOfDate({ ...made, words }, made.variants[0]!)).to.equal(true);
		}
	});

	it('take language tags by RFC 5646 section 2.1, and know the direction of their script', () => {
		// Well-formed ones of RFC 5646 appendix A, without extensions and private use; from memory.
		for (const tag of [
			'de',
			'zh-Hant',
			'sr-Latn-RS',
			'sl-rozaj',
			'de-CH-1901',
			'es-419',
			'en-US'
		]) {
			expect(languageTagSchema.safeParse(tag).success, tag).to.equal(true);
		}
		for (const tag of ['', 'e', 'a-DE', 'english language', 'de-', 'en_US', '<b>']) {
			expect(languageTagSchema.safeParse(tag).success, tag).to.equal(false);
		}
		expect(
			['ar', 'ar-EG', 'he', 'az-Arab', 'ar-Latn', 'vi', 'en'].map(languageDirection)
		).to.deep.equal(['rtl', 'rtl', 'rtl', 'rtl', 'ltr', 'ltr', 'ltr']);
		const twice = {
			...wordingOf('a', 'b'),
			variants: [variant('pt', 'a', 'b'), variant('pt', 'c', 'd')]
		};
		expect(wordingSchema.safeParse(twice).success).to.equal(false);
	});

	it('show a note as a picture with a link, and what is said in it below, in the reader’s language', () => {
		const note = {
			...{
				fileId: 5,
				kind: 'voice' as const,
				ms: 42_400,
				words: 'The boats <leave> at nine.\nBye'
			},
			picture: { fileId: 6, width: 440, height: 88 }
		};
		const letters = lettersOf(wordingOf('Boats', 'Listen.'), { ...frame, note });
		const email = letters.email(copy('es'));
		expect(email.pictureIds).to.deep.equal([6]);
		expect(email.html).to.contain('<a href="https://x.example/f/t"');
		expect(email.html).to.contain('The boats &lt;leave&gt; at nine.<br>Bye');
		expect(email.html).not.to.contain('file/5');
		// The words around a letter are in the language that its words are in.
		expect(email.text).to.contain('Listen to it (0:42):\nhttps://x.example/f/t');
		expect(letters.text(copy('en'))).to.contain('https://x.example/f/t');
		const bare = lettersOf(wordingOf('Boats', 'Watch.'), {
			...frame,
			note: { ...note, kind: 'video', picture: null, words: ' ' }
		}).email(copy('en'));
		expect(bare.html).to.contain('>Watch it (0:42)</a>');
		expect(bare.html).not.to.contain('What is said');
		expect(bare.pictureIds).to.deep.equal([]);
	});
});
