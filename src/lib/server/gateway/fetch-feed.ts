import { fetchOutside, type Asked, type FetchedOutside } from './fetch-outside';

/** What came of asking for a feed: its text, that it is as it was, or why there is none, in words. */
export type Fetched =
	| Exclude<FetchedOutside, { kind: 'content' }>
	| ({ readonly kind: 'text'; readonly text: string } & Pick<
			Extract<FetchedOutside, { kind: 'content' }>,
			'from' | 'etag' | 'lastModified'
	  >);

/** How a feed is asked for. */
export type FeedAsked = Partial<Pick<Asked, 'etag' | 'lastModified' | 'inside' | 'withinMs'>>;

const asXml =
	'application/atom+xml, application/rss+xml, application/rdf+xml, application/xml;q=0.9, text/xml;q=0.9';

/** The text of a file of XML; null where its letters cannot be read here. */
function textOf(content: Buffer, contentType: string): string | null {
	const charset = /charset="?([\w-]+)/i.exec(contentType)?.[1];
	// What XML says of itself stands at its beginning (XML 1.0 section 4.3.3), where no header says it.
	const said =
		charset ?? /^[^>]{0,100}encoding=["']([\w-]+)/.exec(content.toString('latin1', 0, 200))?.[1];
	try {
		return new TextDecoder(said ?? 'utf-8').decode(content);
	} catch {
		return null;
	}
}

/** Fetches a feed from wherever it says it is. */
export async function fetchFeed(address: string, asked: FeedAsked = {}): Promise<Fetched> {
	const came = await fetchOutside(address, {
		...{ what: 'feed', accept: asXml, most: 4_000_000 },
		...asked
	});
	if (came.kind !== 'content') return came;
	const { content, contentType, from, etag, lastModified } = came;
	const text = textOf(content, contentType);
	return text === null
		? { kind: 'failed', why: 'The feed is written in letters that cannot be read here.' }
		: { kind: 'text', text, from, etag, lastModified };
}
