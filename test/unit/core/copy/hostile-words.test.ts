import { expect } from 'chai';
import { parse, type DefaultTreeAdapterTypes as Tree } from 'parse5';
import { docSchema } from '../../../../src/lib/core/copy/doc';
import { lettersOf, type LetterFrame } from '../../../../src/lib/core/copy/letter';
import { copyFacts } from '../../../../src/lib/core/copy/values';
import { wordingSchema, type Wording } from '../../../../src/lib/core/copy/words';
import { draws } from '../../random';

/** What a writer of letters has: each element with the attributes it may bear. */
const own: Readonly<Record<string, readonly string[]>> = {
	html: ['lang', 'dir'],
	head: [],
	meta: ['charset', 'name', 'content'],
	title: [],
	body: ['style'],
	div: ['style'],
	p: ['style', 'dir'],
	h2: ['style', 'dir'],
	h3: ['style', 'dir'],
	h4: ['style', 'dir'],
	br: [],
	strong: [],
	em: [],
	u: [],
	span: ['style'],
	a: ['href', 'rel', 'style'],
	ul: ['style'],
	ol: ['style'],
	li: ['style'],
	hr: ['style'],
	table: ['style'],
	tbody: [],
	tr: [],
	td: ['style', 'colspan', 'rowspan'],
	th: ['style', 'colspan', 'rowspan'],
	img: ['src', 'alt', 'width', 'height', 'style']
};

const link = 'https://school.example/f/token';
const frame = (trace: boolean): LetterFrame => ({
	signature: { name: 'Maren "Q" <Quill>', line: "O'Dowd & {{student}}" },
	zone: 'America/New_York',
	leavesAt: Date.UTC(2027, 2, 10),
	sectionBefore: true,
	sectionLine: true,
	files: [{ fileId: 3, name: 'map"><script>.pdf', bytes: 10, mode: 'link' }],
	letterhead: {
		logo: { fileId: 9, width: 10, height: 10 },
		...{ alt: `"><img src=x onerror=1>`, colour: '#0f5c63', footer: [`</p><script>1</script>`] }
	},
	trace: trace ? { dispatchId: 7, picture: true } : null
});
const evil = `"><img src=x onerror=1>{{student}}`;
const readers = [
	copyFacts({ givenName: 'Delfina', familyName: 'Amaro' }, []),
	copyFacts({ givenName: evil, familyName: `{{#teacher}}'` }, [
		{
			id: 1,
			given: evil,
			full: evil,
			grade: '7',
			school: `</a><form action=/x>`,
			section: { name: evil, period: '{{{', teachers: [`<meta http-equiv=refresh>`] },
			own: false
		}
	])
];

/** Pieces of what somebody would try; put together at random, they meet in every order. */
const pieces = [
	'{{student}}',
	'{{#student}}',
	'{{^teacher}}',
	'{{/student}}',
	'{{/teacher}}',
	'{{! ',
	'}}',
	'{{',
	'{',
	'}',
	'{{{student}}}',
	'{{&student}}',
	'{{>x}}',
	'{{=<% %>=}}',
	'<% student %>',
	'"',
	"'",
	'>',
	'<',
	'&quot;',
	'&#123;',
	'<script>alert(1)</script>',
	'<img src=x onerror=alert(1)>',
	' onclick="x()"',
	'<form action="/f/token?/seen" method="post">',
	'<meta http-equiv="refresh" content="0;url=https://evil.example">',
	'</td></tr></table>',
	'</a>',
	'--><svg onload=x>',
	'copy-link:0',
	'href="copy-link:1',
	'javascript:alert(1)',
	'https://evil.example/',
	'mailto:a@b.example',
	'\u0000',
	'\u202e',
	'\n',
	' ',
	'the boat'
] as const;

describe('nothing in a letter is markup but what the writer makes', () => {
	const r = draws(4711);
	const words = () => Array.from({ length: r.int(1, 5) }, () => r.pick(pieces)).join('');
	const href = () =>
		r.int(0, 3) === 0
			? words()
			: `${r.pick(['https://a.example/?q=', 'http://b.example/', 'mailto:x@', 'HTTPS://c.example/{{student}}'])}${words()}`;
	const marks = () =>
		r.int(0, 2) === 0
			? undefined
			: Array.from({ length: r.int(1, 3) }, () =>
					r.pick([
						() => ({ type: 'bold' }),
						() => ({ type: 'link', attrs: { href: href() } }),
						() => ({
							type: 'textStyle',
							attrs: {
								color: r.pick(['#aabbcc', `red;background:url(x)`, words()]),
								fontSize: r.pick(['16px', '16px;x', words()])
							}
						}),
						() => ({ type: words() })
					])()
				);
	const inline = (): unknown =>
		r.pick([
			() => ({ type: 'text', text: words(), marks: marks() }),
			() => ({ type: 'text', text: words(), marks: marks() }),
			() => ({ type: 'hardBreak' }),
			() => ({
				type: 'field',
				attrs: {
					name: r.pick(['student', 'teacher', 'date:2027-03-12', words()]),
					fallback: words()
				},
				marks: marks()
			})
		])();
	const run = () => Array.from({ length: r.int(0, 5) }, inline);
	const block = (depth: number): unknown =>
		r.pick([
			() => ({ type: 'paragraph', content: run() }),
			() => ({ type: 'heading', attrs: { level: r.int(1, 3) }, content: run() }),
			() => ({
				type: 'picture',
				attrs: { fileId: r.int(1, 9), alt: words(), width: r.int(0, 900) }
			}),
			() => ({ type: r.pick(['horizontalRule', 'iframe', 'script']) }),
			() =>
				depth > 0
					? { type: 'bulletList', content: [{ type: 'listItem', content: [block(depth - 1)] }] }
					: { type: 'paragraph', content: run() },
			() => ({
				type: 'table',
				content: [
					{
						type: 'tableRow',
						content: [
							{
								type: 'tableCell',
								attrs: { colspan: r.int(0, 3), onclick: words() },
								content: [depth > 0 ? block(depth - 1) : { type: 'paragraph', content: run() }]
							}
						]
					}
				]
			})
		])();

	/** Addresses that a link of the letter may have: those of the words' links, and below the copy's own. A value in one may hold anything; it stays inside. */
	const mayLead = (to: string): boolean =>
		to === link ||
		to.startsWith(`${link}/`) ||
		/^(https?:\/\/(a|b|c|evil)\.example\/|mailto:)/i.test(to);

	function look(html: string): void {
		const visit = (node: Tree.ChildNode): void => {
			if (!('tagName' in node)) return;
			const allowed = own[node.tagName];
			expect(allowed, `<${node.tagName}> in ${html}`).to.be.an('array');
			for (const { name, value } of node.attrs) {
				expect(allowed, `${name} of <${node.tagName}> in ${html}`).to.include(name);
				if (name === 'href') expect(mayLead(value), `${value} in ${html}`).to.equal(true);
				if (name === 'src') {
					expect(value).to.match(
						/^(cid:picture-\d+@idle-courier|https:\/\/school\.example\/f\/token\/(dot\.gif|file\/\d+))$/
					);
				}
				if (name === 'style') expect(value).not.to.match(/url|expression|import|@/i);
				if (node.tagName === 'meta') expect(name).not.to.equal('http-equiv');
			}
			node.childNodes.forEach(visit);
		};
		parse(html).childNodes.forEach(visit);
	}

	it('5,000 hostile documents, each as email and in the inbox, for a reader without students and one with hostile names', () => {
		let read = 0;
		for (let i = 0; i < 5_000; i += 1) {
			const parsed = docSchema.safeParse({
				type: 'doc',
				content: Array.from({ length: r.int(1, 3) }, () => block(2))
			});
			if (!parsed.success) continue;
			read += 1;
			const wording: Wording = wordingSchema.parse({
				language: 'en',
				words: { subject: words(), body: parsed.data }
			});
			const letters = lettersOf(wording, frame(i % 2 === 0));
			// Both readers, by turns with and without links that pass through the copy.
			const copy = { facts: readers[(i >> 1) % 2]!, language: 'en', link, mayStop: true };
			look(letters.email(copy).html);
			look(letters.inbox(copy).html);
		}
		// Most of them get as far as a letter: what is refused at the door shows nothing.
		expect(read).to.be.above(2_500);
	});

	it('a field that is none is words, and the check says so', () => {
		const doc = docSchema.parse({
			type: 'doc',
			content: [
				{
					type: 'paragraph',
					content: [{ type: 'field', attrs: { name: '! x', fallback: '' } }]
				}
			]
		});
		expect(doc.content).to.deep.equal([
			{ type: 'paragraph', content: [{ type: 'text', text: '{{! x}}' }] }
		]);
	});
});
