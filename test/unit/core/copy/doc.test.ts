import { expect } from 'chai';
import { parseFragment, type DefaultTreeAdapterTypes } from 'parse5';
import {
	docOf,
	docSchema,
	isEmptyDoc,
	isLinkAddress,
	type Block,
	type Doc,
	type Inline
} from '../../../../src/lib/core/copy/doc';
import { bodyHtml } from '../../../../src/lib/core/copy/html';
import { bodyText } from '../../../../src/lib/core/copy/plain';
import { plainDoc } from '../../../../src/lib/core/copy/plain-signs';
import { draws } from '../../random';

const html = (doc: Doc) => bodyHtml(doc, 'ltr', (id) => `cid:${id}`);
const paragraph = (...content: Inline[]): Block => ({ type: 'paragraph', content });
const text = (words: string, ...marks: unknown[]) =>
	({ type: 'text', text: words, marks }) as unknown as Inline;
const doc = (...content: Block[]): Doc => ({ type: 'doc', content });

/** What a letter may hold, tag by tag. Read back with a parser that follows the HTML standard (parse5). */
const allowed: Readonly<Record<string, readonly string[]>> = {
	p: ['dir', 'style'],
	h2: ['dir', 'style'],
	h3: ['dir', 'style'],
	h4: ['dir', 'style'],
	a: ['href', 'rel'],
	span: ['style'],
	img: ['src', 'alt', 'width', 'style'],
	table: ['style'],
	td: ['style', 'colspan', 'rowspan'],
	th: ['style', 'colspan', 'rowspan'],
	...Object.fromEntries(['ul', 'ol', 'li', 'hr'].map((t) => [t, ['style']])),
	...Object.fromEntries(['strong', 'em', 'u', 'br', 'tbody', 'tr'].map((t) => [t, []]))
};

type Node = DefaultTreeAdapterTypes.ChildNode;
function* elements(nodes: readonly Node[]): Generator<DefaultTreeAdapterTypes.Element> {
	for (const node of nodes) {
		if (!('tagName' in node)) continue;
		yield node;
		yield* elements(node.childNodes);
	}
}
const wordsOf = (nodes: readonly Node[]): string =>
	nodes
		.map((n) => ('value' in n ? n.value : 'childNodes' in n ? wordsOf(n.childNodes) : ''))
		.join('');

function expectHarmless(made: string): void {
	const { childNodes } = parseFragment(made);
	for (const element of elements(childNodes)) {
		expect(allowed, element.tagName).to.have.property(element.tagName);
		for (const { name, value } of element.attrs) {
			expect(allowed[element.tagName], `${element.tagName} ${name}`).to.include(name);
			if (name === 'href') expect(isLinkAddress(value), value).to.equal(true);
			if (name === 'src') expect(value).to.match(/^cid:\d+$/);
			if (name === 'style') expect(value).not.to.match(/url|expression|@import|behavior/i);
		}
	}
}

/**
 * Ways by which a page is made to run what it was only to show: scheme tricks, event attributes,
 * styles, foreign elements. After the categories of the OWASP cross-site scripting filter evasion
 * cheat sheet; from memory, each written anew.
 */
const badLinks = [
	'javascript:alert(1)',
	'JaVaScRiPt:alert(1)',
	' javascript:alert(1)',
	'java\tscript:alert(1)',
	'java\nscript:alert(1)',
	'\u0001javascript:alert(1)',
	'javascript&colon;alert(1)',
	'data:text/html,<script>alert(1)</script>',
	'vbscript:msgbox(1)',
	'file:///etc/passwd',
	'blob:https://x.example/1',
	'//x.example/a',
	'/write/send',
	'http:',
	'https://',
	'mailto:',
	'mailto:a@b.example\nBcc: c@d.example',
	'ftp://x.example/'
];
const badNodes: unknown[] = [
	{ type: 'script', content: [{ type: 'text', text: 'alert(1)' }] },
	{ type: 'iframe', attrs: { src: 'https://x.example' } },
	{ type: 'html', attrs: { html: '<img src=x onerror=alert(1)>' } },
	{ type: 'svg', attrs: { onload: 'alert(1)' } },
	{ type: 'paragraph', content: [{ type: 'image', attrs: { src: 'https://x.example/p.gif' } }] },
	{ type: 'picture', attrs: { fileId: 'javascript:alert(1)', alt: '' } },
	{ type: 'picture', attrs: { fileId: -1, alt: '' } },
	{ type: 'heading', attrs: { level: '1 onclick=alert(1)' } },
	{ type: 'paragraph', content: [{ type: 'text', text: '' }] },
	{ type: 'text', text: 'loose' },
	{ type: '__proto__' }
];

describe('the body of a letter', () => {
	it('has no place for what could be run', () => {
		for (const node of badNodes) {
			const parsed = docSchema.safeParse({ type: 'doc', content: [node] });
			expect(parsed.success, JSON.stringify(node)).to.equal(false);
		}
	});

	it('drops attributes and marks that are not its own, and keeps the words', () => {
		const parsed = docSchema.parse({
			type: 'doc',
			onload: 'alert(1)',
			content: [
				{
					type: 'paragraph',
					attrs: { style: 'background:url(javascript:alert(1))', onclick: 'alert(1)' },
					content: [
						text('kept', { type: 'code' }, { type: 'bold', attrs: { onmouseover: 'x' } }),
						text('red', {
							type: 'textStyle',
							attrs: { color: 'red;background:url(x)', fontSize: '99px', fontFamily: 'x' }
						}),
						text('link', {
							type: 'link',
							attrs: { href: 'https://x.example/', target: '_top', onclick: 'alert(1)' }
						})
					]
				}
			]
		});
		const made = html(parsed);
		expectHarmless(made);
		expect(made).to.contain('<strong>kept</strong>red<a href="https://x.example/"');
		expect(made).not.to.match(/onclick|onmouse|url\(|99px|_top/);
	});

	it('makes plain words of links that lead nowhere or elsewhere', () => {
		for (const href of badLinks) {
			expect(isLinkAddress(href), href).to.equal(false);
			const made = html(doc(paragraph(text('words', { type: 'link', attrs: { href } }))));
			expect(made, href).not.to.contain('<a');
			expect(made).to.contain('words');
		}
		for (const href of [
			'https://x.example/a?b=c&d="e"',
			'http://x.example',
			'mailto:a@b.example'
		]) {
			const made = html(doc(paragraph(text('words', { type: 'link', attrs: { href } }))));
			expectHarmless(made);
			const [link] = [...elements(parseFragment(made).childNodes)].filter((e) => e.tagName === 'a');
			expect(link!.attrs.find((a) => a.name === 'href')!.value).to.equal(href);
		}
	});

	it('is stored as it was written, and made into HTML that says the same words (300 random bodies)', () => {
		const r = draws(41);
		const pieces = [
			'<b>',
			'&amp;',
			'boat ',
			'"',
			"'",
			'مركب ',
			'Nguyễn',
			'<!--',
			']]>',
			'\\',
			'\u202e'
		];
		const words = () => Array.from({ length: r.int(1, 6) }, () => r.pick(pieces)).join('');
		const marks = (): unknown[] =>
			(
				[
					{ type: 'bold' },
					{ type: 'italic' },
					{ type: 'underline' },
					{ type: 'textStyle', attrs: { color: '#a3243b', fontSize: '20px' } },
					{ type: 'link', attrs: { href: 'https://x.example/<"' } }
				] as unknown[]
			).filter(() => r.chance(0.3));
		const inlines = () =>
			Array.from({ length: r.int(1, 4) }, (): Inline =>
				r.chance(0.15) ? { type: 'hardBreak' } : text(words(), ...marks())
			);
		const block = (depth: number): Block => {
			const kind = r.int(0, depth > 0 ? 5 : 2);
			if (kind === 3) {
				return {
					type: r.pick(['bulletList', 'orderedList'] as const),
					content: Array.from({ length: r.int(1, 3) }, () => ({
						type: 'listItem' as const,
						content: [paragraph(...inlines()), ...(r.chance(0.3) ? [block(depth - 1)] : [])]
					}))
				};
			}
			if (kind === 4) {
				return {
					type: 'table',
					content: Array.from({ length: 2 }, () => ({
						type: 'tableRow' as const,
						content: Array.from({ length: 2 }, () => ({
							type: r.pick(['tableCell', 'tableHeader'] as const),
							content: [paragraph(...inlines())]
						}))
					}))
				};
			}
			if (kind === 1) {
				return { type: 'heading', attrs: { level: r.int(1, 3) }, content: inlines() };
			}
			return paragraph(...inlines());
		};
		for (let i = 0; i < 300; i += 1) {
			const made = doc(...Array.from({ length: r.int(1, 5) }, () => block(3)));
			expect(docSchema.parse(JSON.parse(JSON.stringify(made)))).to.deep.equal(made);
			const out = html(made);
			expectHarmless(out);
			const said = (d: unknown): string =>
				JSON.stringify(d)
					.match(/"text":"(?:[^"\\]|\\.)*"/g)
					?.map((t) => (JSON.parse(`{${t}}`) as { text: string }).text)
					.join('') ?? '';
			expect(wordsOf(parseFragment(out).childNodes)).to.equal(said(made));
			// Words that hold nothing 7 bits cannot say are left alone, and the form never changes.
			expect(html(plainDoc(plainDoc(made)))).to.equal(html(plainDoc(made)));
		}
	});

	it('says which way a paragraph runs where it is not the letter’s', () => {
		const made = html(doc(paragraph(text('القارب')), paragraph(text('boat'))));
		expect(made).to.match(/^<p dir="rtl"[^>]*>القارب<\/p><p style/);
		expect(bodyHtml(doc(paragraph(text('boat'))), 'rtl', String)).to.match(/^<p dir="ltr"/);
	});

	it('drops the empty paragraphs that an editor leaves at the end, and no others', () => {
		const made = html(
			doc(paragraph(text('a')), paragraph(), paragraph(text('b')), paragraph(), paragraph())
		);
		expect(made.match(/<p/g)).to.have.length(3);
		expect(isEmptyDoc(doc(paragraph(), paragraph(text(' \u00a0'))))).to.equal(true);
		// Unicode: default ignorable code points, format controls, the empty Braille pattern.
		for (const sign of [
			'\u200b',
			'\u2060',
			'\u3164',
			'\u00ad',
			'\u202e',
			'\ufeff',
			'\u2800',
			'\u{e0041}'
		]) {
			expect(
				isEmptyDoc(doc(paragraph(text(` ${sign}${sign}`)))),
				sign.codePointAt(0)!.toString(16)
			).to.equal(true);
		}
		expect(isEmptyDoc(doc(paragraph(text('\u202eא'))))).to.equal(false);
		expect(isEmptyDoc(doc({ type: 'picture', attrs: { fileId: 1, alt: '' } }))).to.equal(false);
	});

	it('is plain text with lists, tables and the addresses behind its links', () => {
		const list: Block = {
			type: 'bulletList',
			content: [
				{ type: 'listItem', content: [paragraph(text('a jar'))] },
				{
					type: 'listItem',
					content: [
						paragraph(text('boots')),
						{
							type: 'orderedList',
							content: [{ type: 'listItem', content: [paragraph(text('left'))] }]
						}
					]
				}
			]
		};
		const cell = (words: string) => ({
			type: 'tableCell' as const,
			content: [paragraph(text(words))]
		});
		const link = (words: string, href: string) => text(words, { type: 'link', attrs: { href } });
		expect(
			bodyText(
				doc(
					{ type: 'heading', attrs: { level: 1 }, content: [text('Friday')] },
					paragraph(
						text('See '),
						link('the ', 'https://x.example/a'),
						link('plan', 'https://x.example/a')
					),
					paragraph(
						link('https://x.example/b', 'https://x.example/b'),
						text(' and '),
						link('write', 'mailto:a@b.example')
					),
					list,
					{ type: 'table', content: [{ type: 'tableRow', content: [cell('Run'), cell('7:05')] }] },
					{ type: 'picture', attrs: { fileId: 3, alt: 'The new slip' } },
					paragraph({ type: 'field', attrs: { name: 'teacher', fallback: 'the office' } })
				)
			)
		).to.equal(
			'Friday\n\nSee the plan (https://x.example/a)\n\nhttps://x.example/b and write (a@b.example)\n\n' +
				'- a jar\n- boots\n  1. left\n\nRun | 7:05\n\n[The new slip]\n\n' +
				'{{teacher}}{{^teacher}}the office{{/teacher}}'
		);
		expect(bodyText(docOf('a\r\nb\n\n\nc'))).to.equal('a\nb\n\nc');
	});
});
