import { expect } from 'chai';
import { gradeOf, readingGrade } from '../../../../src/lib/core/copy/reading-level';
import { datesIn } from '../../../../src/lib/core/copy/dates';
import { docOf, type Doc } from '../../../../src/lib/core/copy/doc';
import { withOwn, withWords, wordingOf, type Wording } from '../../../../src/lib/core/copy/words';
import {
	encodedBytes,
	longTextCheck,
	wordingChecks,
	type WordingInput
} from '../../../../src/lib/core/plan/check-wording';

/** Tuesday, March 9, 2027, 7:41 am in New York. */
const now = Date.UTC(2027, 2, 9, 12, 41);
const zone = 'America/New_York';
const input = (wording: Wording, over: Partial<WordingInput> = {}): WordingInput => ({
	wording,
	ways: ['email', 'text', 'inbox'],
	kind: 'message',
	replyTo: '',
	now,
	leavesAt: now + 300_000,
	zone,
	languages: [],
	emptyFields: [],
	files: [],
	filesMissing: 0,
	emails: 10,
	texts: 5,
	pictureBytes: 0,
	mailLimitBytes: 25e6,
	nameOfLanguage: (tag) => ({ pt: 'Portuguese', vi: 'Vietnamese' })[tag] ?? tag,
	...over
});
const said = (wording: Wording, over: Partial<WordingInput> = {}) =>
	wordingChecks(input(wording, over)).map((c) => `${c.level} ${c.where}: ${c.text}`);
const body = (doc: Doc) =>
	withWords(wordingOf('Boats', ''), 'en', { subject: 'Boats', body: doc, own: {} });
const good = wordingOf('Boats', 'The boat is late.');
const pt = (over = {}) => ({
	language: 'pt',
	words: wordingOf('Barcos', 'O barco.').words,
	checked: true,
	basis: good.words,
	off: false,
	...over
});

describe('the check of the wording', () => {
	it('has nothing against a good one', () => {
		expect(said(good)).to.deep.equal([]);
	});

	for (const [name, wording, wanted] of [
		['an empty subject', wordingOf(' \t', 'x'), /^block subject: The subject is empty\./],
		[
			'a line break in it',
			wordingOf('Boats\r\nBcc: x@y.example', 'x'),
			/^block subject: .*line break/
		],
		['a subject of 201 characters', wordingOf('x'.repeat(201), 'x'), /^block subject: .*over 200/],
		['no wording', wordingOf('Boats', '\n'), /^block body: There is no wording yet/],
		['wording over its length', wordingOf('B', 'x'.repeat(20_001)), /^block body: .*over 20000/],
		[
			'a field that is none',
			wordingOf('{{studnet}}', 'x'),
			/^block body: There is no field “studnet”/
		],
		['a field that is not closed', wordingOf('B', 'Dear {{student'), /^block body: .*not closed/],
		[
			'an empty text of its own',
			withWords(good, 'en', withOwn(good.words, 'text', { text: ' ', link: true })),
			/^block body: The text has its own wording, and it is empty/
		],
		[
			'a link that leads nowhere',
			body({
				type: 'doc',
				content: [
					{
						type: 'paragraph',
						content: [
							{
								type: 'text',
								text: 'x',
								marks: [{ type: 'link', attrs: { href: 'javascript:x' } }]
							}
						]
					}
				]
			}),
			/^block body: The link “javascript:x” leads nowhere/
		],
		[
			'a picture without a description',
			body({
				type: 'doc',
				content: [...docOf('x').content, { type: 'picture', attrs: { fileId: 1, alt: ' ' } }]
			}),
			/^caution body: 1 picture has no description/
		],
		[
			'a field that is half in bold',
			body({
				type: 'doc',
				content: [
					{
						type: 'paragraph',
						content: [
							{ type: 'text', text: 'Dear {{stu' },
							{ type: 'text', text: 'dent}}', marks: [{ type: 'bold' }] }
						]
					}
				]
			}),
			/^block body: A field is written in pieces/
		],
		[
			'a part to be filled in',
			wordingOf('B', 'Closed on [day].'),
			/^caution body: “\[day\]” is still to be filled in/
		],
		['a past date', wordingOf('B', 'It was on March 5.'), /^caution body: “March 5” is past/],
		[
			'a wrong weekday',
			wordingOf('B', 'On Monday, March 12, we sail.'),
			/^caution body: “Monday, March 12” does not fit: that day is a Friday/
		]
	] as const) {
		it(`finds ${name}`, () => {
			expect(said(wording).join('\n')).to.match(wanted);
		});
	}

	it('counts characters, not code units', () => {
		expect(said(wordingOf('😀'.repeat(200), 'x'))).to.deep.equal([]);
	});

	it('looks at the words of each language in use, and tells which', () => {
		const wording = { ...good, variants: [pt({ words: wordingOf('', 'O {{barco}}').words })] };
		expect(said(wording)).to.deep.equal([
			'block subject: The subject in Portuguese is empty. Write one.',
			'block body: There is no field “barco”. Take one from the list of fields. (in Portuguese)'
		]);
		expect(said({ ...good, variants: [{ ...wording.variants[0]!, off: true }] })).to.deep.equal([]);
	});

	it('tells of variants that are out of date or drafts, and of readers who get the original', () => {
		const stale = pt({ basis: wordingOf('Boats', 'Old.').words, checked: false });
		expect(
			said(
				{ ...good, variants: [stale] },
				{
					languages: [
						{ language: 'en-US', name: 'American English', people: 9, gets: 'en' },
						{ language: 'vi', name: 'Vietnamese', people: 7, gets: 'en' },
						{ language: 'pt', name: 'Portuguese', people: 3, gets: 'pt' }
					]
				}
			)
		).to.deep.equal([
			'caution languages: The wording in Portuguese is out of date: the original has changed since.',
			'caution languages: The wording in Portuguese is a draft that nobody has looked over.',
			'caution languages: 7 people read another language and get the original: Vietnamese 7.'
		]);
	});

	it('names those for whom a field is empty', () => {
		const names = ['Ana A', 'Bo B', 'Cy C', 'Di D', 'Ed E'];
		expect(said(good, { emptyFields: [{ field: 'teacher', people: 12, names }] })).to.deep.equal([
			'block body: “teacher of the section” has no value for 12 people: Ana A, Bo B, Cy C and 9 more. Give it a fallback, or take it out.'
		]);
	});

	it('weighs files as they travel: base64 makes four octets of three (RFC 2045 section 6.8)', () => {
		// "TWFu" for "Man", lines of 76 characters and their ends: from memory.
		expect(encodedBytes(57)).to.equal(Buffer.alloc(57).toString('base64').length * (78 / 76));
		const file = (bytes: number, mode: 'attach' | 'link') => [
			{ fileId: 1, name: 'a.pdf', bytes, mode }
		];
		expect(said(good, { files: file(18_000_000, 'attach') })).to.deep.equal([]);
		expect(said(good, { files: file(19_000_000, 'attach') }).join()).to.match(
			/^caution files: With its files and pictures each email has 26 MB; many mail systems refuse more than 25 MB/
		);
		expect(said(good, { files: file(19_000_000, 'link') })).to.deep.equal([]);
		expect(
			said(good, { files: file(10_000_000, 'attach'), pictureBytes: 9_000_000 }).join()
		).to.match(/each email has 26 MB/);
		expect(said(good, { filesMissing: 2 }).join()).to.match(
			/^block files: 2 files are no longer there/
		);
	});

	it('tells of a long text, one without its link, and words for a way that is not chosen', () => {
		const own = withWords(good, 'en', withOwn(good.words, 'text', { text: 'x', link: false }));
		const files = [{ fileId: 1, name: 'a', bytes: 1, mode: 'link' as const }];
		expect(longTextCheck(3)).to.equal(null);
		expect(longTextCheck(4)!.text).to.match(/takes 4 parts\. Shorten it, or send its beginning/);
		expect(said(own, { files })).to.deep.equal([
			'caution body: A text cannot carry files or notes, and this one has no link to them. Add the link.'
		]);
		expect(said(own, { ways: ['email'] })).to.deep.equal([
			'caution ways: There is a wording of its own for text, and text is not chosen.'
		]);
	});
});

describe('the check of the wording, to the word', () => {
	const readers = (people: number) => [{ language: 'vi', name: 'Vietnamese', people, gets: 'en' }];

	it('tells one reader, file and person from more', () => {
		expect(said(good, { languages: readers(1) })).to.deep.equal([
			'caution languages: 1 person reads another language and gets the original: Vietnamese 1.'
		]);
		const two = [...readers(2), { language: 'so', name: 'Somali', people: 3, gets: 'en' }];
		expect(said(good, { languages: two })).to.deep.equal([
			'caution languages: 5 people read another language and get the original: Vietnamese 2, Somali 3.'
		]);
		expect(said(good, { filesMissing: 1 })).to.deep.equal([
			'block files: 1 file is no longer there, or not yours. Take it out and put it in again.'
		]);
		expect(said(good, { filesMissing: 2 })).to.deep.equal([
			'block files: 2 files are no longer there, or not yours. Take them out and put them in again.'
		]);
		expect(
			said(good, { emptyFields: [{ field: 'teacher', people: 1, names: ['Ana A'] }] })
		).to.deep.equal([
			'block body: “teacher of the section” has no value for 1 person: Ana A. Give it a fallback, or take it out.'
		]);
	});

	it('gives the names beside a field only where they are more than the words hold', () => {
		const namesOf = (people: number) => {
			const names = ['Ana A', 'Bo B', 'Cy C', 'Di D'].slice(0, people);
			return wordingChecks(input(good, { emptyFields: [{ field: 'teacher', people, names }] }))[0]!
				.names;
		};
		expect(namesOf(3)).to.equal(undefined);
		expect(namesOf(4)).to.deep.equal(['Ana A', 'Bo B', 'Cy C', 'Di D']);
	});

	it('looks at a letter of its own for a way that is chosen, and at the common one while a way has it', () => {
		const own = (way: 'email' | 'inbox') => ({ subject: '', body: docOf(`For ${way}.`) });
		const letter = (ways: ('email' | 'inbox')[]) =>
			withWords(good, 'en', {
				...good.words,
				subject: '',
				own: Object.fromEntries(ways.map((w) => [w, own(w)]))
			});
		const empty = (which: string) => `block subject: The subject${which} is empty. Write one.`;
		const blocksOf = (wording: Wording, ways: WordingInput['ways']) =>
			said(wording, { ways }).filter((l) => l.startsWith('block'));
		expect(blocksOf(letter(['email']), ['email'])).to.deep.equal([empty(', for email')]);
		expect(blocksOf(letter(['email']), ['email', 'inbox'])).to.deep.equal([
			empty(''),
			empty(', for email')
		]);
		expect(blocksOf(letter(['email', 'inbox']), ['email', 'inbox'])).to.deep.equal([
			empty(', for email'),
			empty(', for inbox')
		]);
		expect(blocksOf(letter(['email']), [])).to.deep.equal([empty('')]);
	});

	it('says the same of two languages once, and a reply address of spaces is none', () => {
		expect(said(good, { replyTo: '   ' })).to.deep.equal([]);
		const stale = pt({ checked: false, off: true });
		expect(said({ ...good, variants: [stale] })).to.deep.equal([]);
		// At exactly the limit nothing is refused yet.
		const files = [{ fileId: 1, name: 'a', bytes: 57_000, mode: 'attach' as const }];
		expect(said(good, { files, mailLimitBytes: encodedBytes(57_000) })).to.deep.equal([]);
		expect(said(good, { files, mailLimitBytes: encodedBytes(57_000) - 1 }).join()).to.match(
			/each email has 0\.1 MB; many mail systems refuse more than 0\.1 MB/
		);
	});

	it('asks about dates and reading only where the words are English', () => {
		const past = wordingOf('Boats', 'The boat left on March 1, 2027.');
		expect(said(past)).to.deep.equal(['caution body: “March 1, 2027” is past.']);
		expect(said({ ...past, language: 'pt' })).to.deep.equal([]);
		expect(said({ ...past, language: 'en-GB' })).to.have.length(1);
		expect(longTextCheck(4)).to.deep.include({ level: 'caution', where: 'body' });
	});

	it('says of easy words how easy they are', () => {
		const easy = wordingOf(
			'Boats',
			'The boat is late today. Please come to the pier at nine. '.repeat(12)
		);
		expect(said(easy).join()).to.match(/^fine body: It reads at about grade -?\d+\.$/);
	});
});

describe('dates in the wording', () => {
	it('are those with day and month; what could be something else is passed over', () => {
		const found = datesIn(
			'Room 3/4, grades 7-8, at 2:15 pm, on Friday, March 12, by 2027-03-30, the 5th of April 2026, May be',
			now,
			zone
		);
		expect(found.map((d) => [d.day, d.rightWeekday, d.past])).to.deep.equal([
			['2027-03-12', null, false],
			['2027-03-30', null, false],
			['2026-04-05', null, true]
		]);
	});
});

describe('the reading level', () => {
	it('is the published formula', () => {
		// Worked values for these counts as commonly given with the formula; from memory.
		expect(gradeOf(1, 13, 24)).to.equal(11.3);
		expect(gradeOf(1, 6, 6)).to.equal(-1.4);
	});

	it('is said of enough words only, higher for long words and sentences', () => {
		expect(readingGrade('The boat is late.')).to.equal(null);
		const easy = readingGrade(
			'The boat is late. Bring a coat and a hat. We walk to the pier. '.repeat(4)
		)!;
		const hard = readingGrade(
			'Notwithstanding considerable meteorological uncertainty, transportation administrators anticipate uninterrupted operation of inter-island connections. '.repeat(
				4
			)
		)!;
		expect(easy).to.be.below(3);
		expect(hard).to.be.above(20);
		const long = wordingOf(
			'B',
			'Notwithstanding considerable uncertainty, administrators anticipate uninterrupted operation of transportation. '.repeat(
				5
			)
		);
		expect(said(long).join()).to.match(/^caution body: It reads at about grade \d\d/);
	});

	it('looks at the reply address of a message, and asks for none of an announcement', () => {
		expect(said(good, { replyTo: 'office at school' }).join()).to.match(
			/^block letter: .*no reply address/
		);
		expect(said(good, { replyTo: 'office@school.example' })).to.deep.equal([]);
		expect(said(good, { kind: 'announcement', replyTo: 'office at school' })).to.deep.equal([]);
	});

	it('asks for what is said in a note, since not everybody can hear it', () => {
		const note = { kind: 'voice', words: ' \n' } as const;
		expect(said(good, { note })).to.deep.equal([
			'block note: Write what is said in the voice note: not everybody can hear it.'
		]);
		expect(said(good, { note: { ...note, words: 'At nine.' } })).to.deep.equal([]);
		const own = withWords(good, 'en', {
			...good.words,
			own: { text: { text: 'At nine', link: false } }
		});
		expect(said(own, { note: { ...note, words: 'At nine.' } }).join()).to.contain(
			'A text cannot carry files or notes'
		);
	});
});
