import { parseFeed } from '@rowanmanning/feed-parser';
import { expect } from 'chai';
import { SaxesParser } from 'saxes';
import { writeAtom, type WrittenFeed } from '../../../../src/lib/core/format/atom';
import { draws, often } from '../../random';

const at = Date.UTC(2027, 2, 9, 15, 4, 5);
const feed = (over: Partial<WrittenFeed> = {}): WrittenFeed => ({
	...{ id: 'tag:school.example,2026:board/section-100', title: 'Board of Boats', language: 'en' },
	...{ subtitle: 'Brackwater', author: 'Brackwater', updated: at },
	...{ self: 'https://school.example/b/x/news.atom', link: 'https://school.example/b/x' },
	entries: [],
	...over
});
const entry = (over: Partial<WrittenFeed['entries'][number]> = {}) => ({
	...{ id: 'urn:uuid:4f1c', title: 'Boats', html: '<p>The boat is late.</p>', language: 'en' },
	...{ link: 'https://school.example/b/x?post=1', published: at, updated: at + 1000, files: [] },
	...over
});

// Read back by a parser that has nothing in common with what writes it.
describe('a feed', () => {
	it('has what RFC 4287 asks of a feed and its entries (sections 4.1.1 and 4.1.2)', () => {
		const text = writeAtom(
			feed({
				entries: [entry({ files: [{ href: 'https://school.example/b/x/file/3', words: 'Map' }] })]
			})
		);
		const read = parseFeed(text);
		expect(read.meta).to.deep.include({ type: 'atom', version: '1.0' });
		expect(read.title).to.equal('Board of Boats');
		expect(read.self).to.equal('https://school.example/b/x/news.atom');
		expect(read.authors.map((a) => a.name)).to.deep.equal(['Brackwater']);
		expect(read.updated?.getTime()).to.equal(at);
		const [one] = read.items;
		expect(one!.id).to.equal('urn:uuid:4f1c');
		expect(one!.title).to.equal('Boats');
		expect(one!.url).to.equal('https://school.example/b/x?post=1');
		expect(one!.content).to.equal('<p>The boat is late.</p>');
		expect(one!.published?.getTime()).to.equal(at);
		expect(one!.updated?.getTime()).to.equal(at + 1000);
		expect(one!.media.map((m) => m.url)).to.deep.equal(['https://school.example/b/x/file/3']);
		// Dates by RFC 3339, with a T and a Z in capitals (section 3.3).
		expect(text).to.match(/<updated>2027-03-09T15:04:05(\.000)?Z<\/updated>/);
		expect(text).to.match(/^<\?xml version="1\.0" encoding="utf-8"\?>/);
	});

	it('says the same whatever is in its words, read strictly (XML 1.0): signs of it, ends of CDATA, what none may hold', () => {
		const r = draws(42);
		const pieces = [
			...['<b>', ']]>', '&amp;', '&', '"', '\u0007', '\ud800', '\uffff', 'Lantern'],
			...['é', 'ليلى', '👍', '<!--', '\n']
		];
		for (let i = 0; i < often(300); i += 1) {
			const words = Array.from({ length: 8 }, () => r.pick(pieces)).join(' ');
			const html = `<p>${words.replaceAll('&', '&amp;').replaceAll('<', '&lt;')}</p>`;
			const said = textsIn(
				writeAtom(feed({ title: `x${words}`, entries: [entry({ title: `y${words}`, html })] }))
			);
			const kept = (text: string) =>
				['\u0007', '\ud800', '\uffff'].reduce((all, sign) => all.replaceAll(sign, ''), text);
			expect(said.title).to.deep.equal([kept(`x${words}`).trim(), kept(`y${words}`).trim()]);
			expect(said.content).to.deep.equal([kept(html).trim()]);
		}
	});
});

/** The texts of elements by their names, in their order; fails where it is no XML with namespaces. */
function textsIn(xml: string): Readonly<Record<string, readonly string[]>> {
	const texts: Record<string, string[]> = {};
	const open: string[] = [];
	const parser = new SaxesParser({ xmlns: true });
	parser.on('error', (e) => {
		throw e;
	});
	parser.on('opentag', ({ local, uri }) => {
		expect(uri).to.equal('http://www.w3.org/2005/Atom');
		open.push(local);
		(texts[local] ??= []).push('');
	});
	const add = (text: string) => {
		const list = texts[open.at(-1) ?? ''];
		if (list) list[list.length - 1] += text;
	};
	parser.on('text', add);
	parser.on('cdata', add);
	parser.on('closetag', () => open.pop());
	parser.write(xml).close();
	// Space around a text is of no matter (section 3.1.1.1 lets whoever shows it collapse it).
	return Object.fromEntries(
		Object.entries(texts).map(([name, all]) => [name, all.map((t) => t.trim())])
	);
}
