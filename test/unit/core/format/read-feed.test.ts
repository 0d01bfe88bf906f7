import { expect } from 'chai';
import {
	entryMarks,
	newEntries,
	readFeed,
	type FeedEntry
} from '../../../../src/lib/core/format/read-feed';
import { draws, often } from '../../random';

const from = 'https://news.example/feed';
const read = (text: string) => {
	const feed = readFeed(text, from);
	if (!feed.ok) throw new Error(feed.why);
	return feed;
};
const rss = (items: string, head = '') =>
	`<?xml version="1.0"?><rss version="2.0" xmlns:content="http://purl.org/rss/1.0/modules/content/"><channel><title>News</title><link>https://news.example/</link><description>d</description>${head}${items}</channel></rss>`;

describe('a feed that is read', () => {
	it('is Atom: the example of RFC 4287 section 1.1', () => {
		const { title, entries } = read(`<?xml version="1.0" encoding="utf-8"?>
<feed xmlns="http://www.w3.org/2005/Atom">
  <title>Example Feed</title>
  <link href="http://example.org/"/>
  <updated>2003-12-13T18:30:02Z</updated>
  <author><name>John Doe</name></author>
  <id>urn:uuid:60a76c80-d399-11d9-b93C-0003939e0af6</id>
  <entry>
    <title>Atom-Powered Robots Run Amok</title>
    <link href="http://example.org/2003/12/13/atom03"/>
    <id>urn:uuid:1225c695-cfb8-4ebb-aaaa-80da344efa6a</id>
    <updated>2003-12-13T18:30:02Z</updated>
    <summary>Some text.</summary>
  </entry>
</feed>`);
		expect(title).to.equal('Example Feed');
		expect(entries).to.deep.equal([
			{
				key: 'urn:uuid:1225c695-cfb8-4ebb-aaaa-80da344efa6a',
				title: 'Atom-Powered Robots Run Amok',
				words: 'Some text.',
				link: 'http://example.org/2003/12/13/atom03',
				picture: null,
				at: Date.UTC(2003, 11, 13, 18, 30, 2)
			}
		]);
	});

	it('is Atom: each text by what it says it is (RFC 4287 sections 3.1.1.1 to 3.1.1.3, with their examples)', () => {
		const titles = [
			'<title type="text">\n  Less: &lt;\n</title>',
			'<title type="html">\n  Less: &lt;em> &amp;lt; &lt;/em>\n</title>',
			'<title type="xhtml" xmlns:xhtml="http://www.w3.org/1999/xhtml"><xhtml:div>Less: <xhtml:em> &lt; </xhtml:em></xhtml:div></title>'
		];
		for (const one of titles) {
			const { entries } = read(
				`<feed xmlns="http://www.w3.org/2005/Atom"><title>t</title><id>f</id><updated>2003-12-13T18:30:02Z</updated><entry><id>e</id>${one}<updated>2003-12-13T18:30:02Z</updated></entry></feed>`
			);
			expect(entries[0]!.title, one).to.equal('Less: <');
		}
	});

	it('is RSS 2.0: the items of its specification’s sample, HTML in a description, one without a title (rssboard.org)', () => {
		const { entries } = read(
			rss(`<item><title>Star City</title><link>/news/2003/news-starcity.asp</link>
<description>How do we get &lt;a href="http://howe.example/language.html"&gt;language&lt;/a&gt;?&lt;p&gt;And &lt;b&gt;time&lt;/b&gt;.&lt;/p&gt;</description>
<pubDate>Tue, 03 Jun 2003 09:39:21 GMT</pubDate><guid isPermaLink="false">2003/06/03.html#item573</guid>
<enclosure url="/boat.jpg" length="12216320" type="image/jpeg"/></item>
<item><description>Sky watchers will see a &lt;a href="x"&gt;partial eclipse&lt;/a&gt;.</description>
<pubDate>Fri, 30 May 2003 11:06:42 GMT</pubDate></item>`)
		);
		expect(entries).to.deep.equal([
			{
				...{ key: '2003/06/03.html#item573', title: 'Star City' },
				words: 'How do we get language?\n\nAnd time.',
				link: 'https://news.example/news/2003/news-starcity.asp',
				picture: 'https://news.example/boat.jpg',
				at: Date.UTC(2003, 5, 3, 9, 39, 21)
			},
			{
				...{ key: '\nSky watchers will see a partial eclipse.', title: '' },
				...{ words: 'Sky watchers will see a partial eclipse.', link: null, picture: null },
				at: Date.UTC(2003, 4, 30, 11, 6, 42)
			}
		]);
	});

	it('is RSS 1.0: items named by their address in RDF (RSS 1.0 section 5.5, after its example)', () => {
		const { entries } = read(`<?xml version="1.0"?>
<rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#" xmlns="http://purl.org/rss/1.0/" xmlns:dc="http://purl.org/dc/elements/1.1/">
  <channel rdf:about="http://news.example/xml/news.rss"><title>News</title><link>http://news.example/pub</link><description>d</description>
    <items><rdf:Seq><rdf:li resource="http://news.example/pub/2000/08/09/xslt/xslt.html"/></rdf:Seq></items></channel>
  <item rdf:about="http://news.example/pub/2000/08/09/xslt/xslt.html">
    <title>Processing Inclusions</title><link>http://news.example/pub/2000/08/09/xslt/xslt.html</link>
    <description>Processing document inclusions &amp; more.</description><dc:date>2000-08-09T10:00:00+02:00</dc:date>
  </item>
</rdf:RDF>`);
		expect(entries).to.deep.equal([
			{
				...{
					key: 'http://news.example/pub/2000/08/09/xslt/xslt.html',
					title: 'Processing Inclusions'
				},
				...{ words: 'Processing document inclusions & more.', picture: null },
				...{
					link: 'http://news.example/pub/2000/08/09/xslt/xslt.html',
					at: Date.UTC(2000, 7, 9, 8)
				}
			}
		]);
	});

	it('that is hostile is refused, or says nothing but words', () => {
		const why = (text: string) => {
			const feed = readFeed(text, from);
			return feed.ok ? 'read' : feed.why;
		};
		const bomb = `<?xml version="1.0"?><!DOCTYPE x [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;">]><rss version="2.0"><channel><item><title>&b;</title></item></channel></rss>`;
		expect(why(bomb)).to.match(/declares entities/);
		expect(why(`<rss version="2.0"><!ENTITY x SYSTEM "file:///etc/hostname"></rss>`)).to.match(
			/entities/
		);
		expect(why(rss('x'.repeat(4_000_001)))).to.match(/over 4 million/);
		expect(why('<html><body>Not here</body></html>')).to.match(/no feed/);
		expect(why('')).to.match(/no feed/);
		expect(why('{"version":"https://jsonfeed.org/version/1.1","title":"t","items":[]}')).to.match(
			/another kind/
		);
		const { entries } = read(
			rss(`<item><title>One &lt;script&gt;alert(1)&lt;/script&gt;</title><guid isPermaLink="false">1</guid><link>javascript:alert(1)</link>
<description>&lt;script&gt;alert(1)&lt;/script&gt;&lt;p onclick="x()"&gt;Fine.&lt;/p&gt;&lt;style&gt;p{}&lt;/style&gt;&lt;iframe src="x"&gt;in&lt;/iframe&gt;</description>
<enclosure url="file:///etc/passwd.png" type="image/png" length="1"/></item>`)
		);
		// A title of RSS is text, and stays the text that it is.
		expect(entries).to.deep.equal([
			{
				...{ key: '1', title: 'One <script>alert(1)</script>', words: 'Fine.' },
				...{ link: null, picture: null, at: null }
			}
		]);
		const many = read(
			rss(Array.from({ length: 900 }, (_, i) => `<item><title>${i}</title></item>`).join(''))
		);
		expect(many.entries).to.have.length(200);
		const long = read(rss(`<item><title>${'👍'.repeat(1000)}</title></item>`)).entries[0]!;
		expect([...long.title]).to.have.length(300);
	});

	it('gives each entry once, whatever its feed does with dates and order, over 300 rounds of a changing feed', () => {
		const r = draws(55);
		const entry = (id: number): FeedEntry => ({
			...{ key: `k${id}`, title: `No ${id}`, words: 'w', link: null, picture: null },
			at: r.chance(0.2) ? null : r.int(0, 1_000)
		});
		const sent = new Set<string>();
		const all: string[] = [];
		let newest = 0;
		for (let i = 0; i < often(300); i += 1) {
			const added = r.int(0, 3);
			newest += added;
			const there = Array.from({ length: Math.min(newest, 8) }, (_, n) => entry(newest - n));
			if (r.chance(0.3)) there.reverse();
			const fresh = newEntries(there, sent);
			for (const e of fresh) {
				all.push(e.key);
				for (const mark of entryMarks(e)) sent.add(mark);
			}
			if (fresh.every((e) => e.at !== null))
				expect(fresh.map((e) => e.at)).to.deep.equal(fresh.map((e) => e.at!).sort((a, b) => b - a));
		}
		expect(new Set(all).size).to.equal(all.length);
		expect(all).to.have.length(newest);
	});
});
