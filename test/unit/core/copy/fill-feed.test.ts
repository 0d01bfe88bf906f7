import { expect } from 'chai';
import { docOf, docSchema, type Doc, type Inline } from '../../../../src/lib/core/copy/doc';
import { bodyHtml } from '../../../../src/lib/core/copy/html';
import { feedTaken, fillFeed } from '../../../../src/lib/core/copy/fill-feed';
import type { FilledEntry } from '../../../../src/lib/core/copy/feed-words';
import { bodyText } from '../../../../src/lib/core/copy/plain';
import { readTemplate } from '../../../../src/lib/core/copy/template';
import { isOutOfDate } from '../../../../src/lib/core/copy/stale';
import { wordingOf, type Wording } from '../../../../src/lib/core/copy/words';

const zone = 'America/Los_Angeles';
const entry = (more: Partial<FilledEntry> = {}): FilledEntry => ({
	...{ title: 'Ferry late', words: 'It leaves at nine.\n\nBring a book.' },
	...{ link: 'https://news.example/1', picture: null, at: Date.parse('2027-03-02T17:05:00Z') },
	...more
});
const field = (name: string): Inline => ({ type: 'field', attrs: { name, fallback: '' } });
const paragraph = (...content: Inline[]) => ({ type: 'paragraph' as const, content });
const text = (said: string): Inline => ({ type: 'text', text: said });
const doc = (...content: Doc['content'][number][]): Doc => ({ type: 'doc', content });
const worded = (body: Doc, subject = 'News'): Wording => ({
	...wordingOf(subject, ''),
	words: { subject, body, own: {} }
});
const filled = (body: Doc, entries = [entry()]) => fillFeed(worded(body), entries, zone).words.body;

describe('words with entries of a feed in them', () => {
	it('says what stands between the first place that takes something and the last for each entry, the rest once', () => {
		const body = doc(
			paragraph(text('Dear families,')),
			{ type: 'heading', attrs: { level: 3 }, content: [field('feed_title')] },
			paragraph(field('feed_words')),
			paragraph(text('More: '), field('feed_link')),
			paragraph(text('Yours'))
		);
		const two = filled(body, [
			entry(),
			entry({ title: 'Boat found', words: 'In the bay.', link: 'https://news.example/2' })
		]);
		expect(bodyText(two)).to.equal(
			[
				'Dear families,',
				'Ferry late',
				'It leaves at nine.',
				'Bring a book.',
				'More: https://news.example/1',
				'Boat found',
				'In the bay.',
				'More: https://news.example/2',
				'Yours'
			].join('\n\n')
		);
		expect(docSchema.safeParse(two).success).to.equal(true);
		expect(bodyHtml(two, 'ltr', String)).to.contain('href="https://news.example/2"');
	});

	it('says each entry as a point of a list, and as a row of a table', () => {
		const list = filled(
			doc({
				type: 'bulletList',
				content: [
					{ type: 'listItem', content: [paragraph(text('Always'))] },
					{ type: 'listItem', content: [paragraph(field('feed_title'))] }
				]
			}),
			[entry(), entry({ title: 'Boat found' })]
		);
		expect(list.content).to.have.length(1);
		expect(
			bodyText(list)
				.replace(/[^\w\s]/g, '')
				.split(/\s*\n\s*/)
		).to.deep.equal([' Always', 'Ferry late', 'Boat found']);
		const table = filled(
			doc({
				type: 'table',
				content: [
					{
						type: 'tableRow',
						content: [{ type: 'tableHeader', content: [paragraph(text('What'))] }]
					},
					{
						type: 'tableRow',
						content: [{ type: 'tableCell', content: [paragraph(field('feed_title'))] }]
					}
				]
			}),
			[entry(), entry(), entry()]
		);
		expect(table.content[0]).to.have.property('content').with.length(4);
	});

	it('leaves out a line that is there for what an entry has not, and shows its picture where it has one', () => {
		const body = doc(
			paragraph(field('feed_picture')),
			paragraph(text('At '), field('feed_time')),
			paragraph(field('feed_link'))
		);
		expect(filled(body, [entry({ at: null, link: null })]).content).to.deep.equal([
			{ type: 'paragraph' }
		]);
		const shown = filled(body, [entry({ picture: { fileId: 7, width: 1400 } })]);
		expect(shown.content[0]).to.deep.equal({
			type: 'picture',
			attrs: { fileId: 7, alt: 'Ferry late', width: 560 }
		});
		// By each reader's own clock and language, as any other time in a wording.
		expect(JSON.stringify(shown)).to.contain('date:2027-03-02T09:05');
	});

	it('takes the newest into the subject, on one line, and fills a text of its own line by line', () => {
		const wording: Wording = {
			...wordingOf('News: {{feed_title}}', ''),
			words: {
				subject: 'News: {{feed_title}}',
				body: docOf('See below'),
				own: { text: { text: 'Harbor:\n- {{feed_title}}\nMore: {{feed_link}}\nBye', link: false } }
			}
		};
		const { words } = fillFeed(
			wording,
			[entry({ title: 'One\ntwo ' + 'x'.repeat(300) }), entry({ title: 'B', link: null })],
			zone
		);
		expect(words.subject.slice(0, 14)).to.equal('News: One two ');
		expect(words.subject).not.to.contain('\n');
		expect(words.subject.length).to.be.below(220);
		expect(words.own.text!.text.split('\n').slice(2)).to.deep.equal([
			...['More: https://news.example/1', '- B', 'Bye']
		]);
	});

	it('lets no word of a feed be a field, a part or markup', () => {
		const hostile = entry({
			title: '{{recipient}} {{#student}} <script>alert(1)</script> {',
			words: '{{^teacher}} {{{sender}}} }} {{feed_title}}\n\n<img src=x onerror=1>',
			link: 'javascript:alert(1)'
		});
		const body = doc(
			paragraph(field('feed_title'), text('{recipient}}')),
			paragraph(field('feed_words')),
			paragraph(field('feed_link'))
		);
		const { words } = fillFeed(worded(body, '{{feed_title}}{recipient}}'), [hostile], zone);
		expect(readTemplate(words.subject).fields).to.deep.equal([]);
		expect(readTemplate(bodyText(words.body)).fields).to.deep.equal([]);
		const html = bodyHtml(words.body, 'ltr', String);
		expect(html).not.to.match(/<script|<img|href/);
	});

	it('fills every language, and what was up to date is so still', () => {
		const words = worded(doc(paragraph(field('feed_title')))).words;
		const wording: Wording = {
			...worded(words.body),
			variants: [
				{
					...{ language: 'es', checked: true, off: false, basis: words },
					words: { ...words, subject: 'Noticias' }
				}
			]
		};
		const done = fillFeed(wording, [entry()], zone);
		const [es] = done.variants;
		expect(bodyText(es!.words.body)).to.equal('Ferry late');
		expect(isOutOfDate(done, es!)).to.equal(isOutOfDate(wording, wording.variants[0]!));
	});

	it('knows what a wording takes, typed or put in, by any way', () => {
		const words = {
			...{ subject: 'x {{ feed_title }}', body: doc(paragraph(field('feed_words'))) },
			own: { text: { text: '{{feed_link}}', link: true } }
		};
		expect([...feedTaken(words)].sort()).to.deep.equal(['feed_link', 'feed_title', 'feed_words']);
	});
});
