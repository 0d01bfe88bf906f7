import { parseFeed } from 'feedsmith';
import { convert } from 'html-to-text';

/** One entry of a feed, as a wording takes it: words alone, nothing that could be run. */
export interface FeedEntry {
	/** By which it is known again, whatever else of it changes: its own id, its address, or what it says. */
	readonly key: string;
	readonly title: string;
	/** Paragraphs, an empty line between them. */
	readonly words: string;
	/** http or https, whole; null where there is none. */
	readonly link: string | null;
	/** The address of its picture; null where there is none. */
	readonly picture: string | null;
	/** When it says it was written (instant, ms); null where it says nothing that can be read. */
	readonly at: number | null;
}

/** A feed as it was read, or why it could not be, in words. */
export type FeedRead =
	| { readonly ok: true; readonly title: string; readonly entries: readonly FeedEntry[] }
	| { readonly ok: false; readonly why: string };

/** What a feed may be, so that no feed holds anybody up. */
const most = { characters: 4_000_000, entries: 200, title: 300, words: 20_000, key: 500 };

/** What the formats have in common of an entry. */
interface Raw {
	readonly id: string | undefined;
	readonly title: string | undefined;
	/** Whether the title is HTML, or plain text. */
	readonly titleIsHtml: boolean;
	readonly said: string | undefined;
	/** Whether what it says is HTML, or plain text. */
	readonly saidIsHtml: boolean;
	readonly link: string | undefined;
	readonly picture: string | undefined;
	readonly at: unknown;
}

/** HTML as paragraphs of words: scripts, styles, pictures and forms say nothing. */
const wordsOf = (html: string): string =>
	convert(html.slice(0, most.words * 10), {
		wordwrap: false,
		limits: { maxInputLength: most.words * 10, maxDepth: 40, maxChildNodes: 2_000 },
		selectors: [
			{ selector: 'a', options: { ignoreHref: true } },
			...['img', 'script', 'style', 'form', 'iframe', 'object', 'svg', 'template'].map(
				(selector) => ({ selector, format: 'skip' })
			)
		]
	})
		.replace(/[^\S\n]+/g, ' ')
		.replace(/ ?\n ?/g, '\n')
		.replace(/\n{3,}/g, '\n\n')
		.trim();

const oneLine = (text: string): string => text.replace(/\s+/g, ' ').trim();

/** As many characters as said, never half of one. */
const first = (text: string, n: number): string => [...text.slice(0, n * 2)].slice(0, n).join('');

/** An address that may stand behind a link, made whole; null for any other. */
function addressOf(href: string | undefined, base: string): string | null {
	if (href === undefined || href.trim() === '') return null;
	try {
		const url = new URL(href.trim(), base || undefined);
		return ['http:', 'https:'].includes(url.protocol) && url.username === '' ? url.href : null;
	} catch {
		return null;
	}
}

/** A moment as feeds write it: RFC 822 (with a year of four digits), or RFC 3339. */
function instantOf(text: unknown): number | null {
	const at = typeof text === 'string' ? Date.parse(text) : NaN;
	return Number.isFinite(at) ? at : null;
}

function entryOf(raw: Raw, base: string): FeedEntry | null {
	const heading = raw.title ?? '';
	const title = first(oneLine(raw.titleIsHtml ? wordsOf(heading) : heading), most.title);
	const words = first(
		raw.saidIsHtml ? wordsOf(raw.said ?? '') : (raw.said ?? '').trim(),
		most.words
	);
	if (title === '' && words === '') return null;
	const link = addressOf(raw.link, base);
	const key = raw.id?.trim() || link || `${title}\n${words}`;
	return {
		...{ key: first(key, most.key), title, words, link },
		picture: addressOf(raw.picture, base),
		at: instantOf(raw.at)
	};
}

type Parsed = ReturnType<typeof parseFeed>;
type Of<F extends Parsed['format']> = Extract<Parsed, { format: F }>['feed'];

const isPicture = (type: string | undefined, url: string | undefined): boolean =>
	type === undefined ? /\.(png|jpe?g|gif|webp)$/i.test(url ?? '') : /^image\//i.test(type);

/** RSS 2.0 and those before it: a title is text, and a description HTML. */
const ofRss = (feed: Of<'rss'>): Raw[] =>
	(feed.items ?? []).map((i) => ({
		...{ id: i.guid?.value, title: i.title, titleIsHtml: false },
		...{ said: i.content?.encoded ?? i.description, saidIsHtml: true },
		link: i.link ?? (i.guid?.isPermaLink === false ? undefined : i.guid?.value),
		picture: (i.enclosures ?? []).find((e) => isPicture(e.type, e.url))?.url,
		at: i.pubDate ?? i.dc?.dates?.[0]
	}));

/** RSS 1.0: an item is named by its address in RDF. */
const ofRdf = (feed: Of<'rdf'>): Raw[] =>
	(feed.items ?? []).map((i) => ({
		...{ id: i.rdf?.about, title: i.title, titleIsHtml: false },
		...{ said: i.content?.encoded ?? i.description, saidIsHtml: true },
		...{ link: i.link, picture: undefined, at: i.dc?.dates?.[0] }
	}));

/** Atom: each text says what it is (RFC 4287 section 3.1). */
const ofAtom = (feed: Of<'atom'>): Raw[] =>
	(feed.entries ?? []).map((e) => {
		const said = e.content?.value === undefined ? e.summary : e.content;
		const links = e.links ?? [];
		return {
			...{ id: e.id, title: e.title?.value },
			titleIsHtml: e.title?.type === 'html' || e.title?.type === 'xhtml',
			...{ said: said?.value, saidIsHtml: said?.type !== undefined && said.type !== 'text' },
			link: links.find((l) => l.rel === undefined || l.rel === 'alternate')?.href,
			picture: links.find((l) => l.rel === 'enclosure' && isPicture(l.type, l.href))?.href,
			at: e.updated ?? e.published
		};
	});

/**
 * Reads a feed: RSS 2.0 (and 0.9x), RSS 1.0, or Atom 1.0. `from` is the address it came from, against which its own
 * are made whole. What declares a type of document is refused: entities are how a small file becomes a huge one.
 */
export function readFeed(text: string, from: string): FeedRead {
	if (text.length > most.characters)
		return { ok: false, why: `The feed is over ${most.characters / 1e6} million characters.` };
	if (/^\s*<(!doctype\s+html|html)\b/i.test(text))
		return {
			ok: false,
			why: 'What is there is a web page and no feed. Look on it for a link that says RSS or Atom.'
		};
	if (/<!(DOCTYPE|ENTITY)/i.test(text))
		return { ok: false, why: 'The feed declares entities, which nobody needs for news.' };
	let parsed: Parsed;
	try {
		parsed = parseFeed(text);
	} catch {
		return { ok: false, why: 'What is there is no feed: neither RSS nor Atom.' };
	}
	const raws =
		parsed.format === 'rss'
			? ofRss(parsed.feed)
			: parsed.format === 'rdf'
				? ofRdf(parsed.feed)
				: parsed.format === 'atom'
					? ofAtom(parsed.feed)
					: null;
	if (raws === null) return { ok: false, why: 'It is a feed of another kind than RSS and Atom.' };
	const title = parsed.format === 'atom' ? parsed.feed.title?.value : parsed.feed.title;
	const found = new Map<string, FeedEntry>();
	for (const raw of raws.slice(0, most.entries)) {
		const entry = entryOf(raw, from);
		// The same id twice is one entry, the first of it (RFC 4287 section 4.1.1 lets nobody rely on either).
		if (entry && !found.has(entry.key)) found.set(entry.key, entry);
	}
	return {
		...{ ok: true, title: first(oneLine(typeof title === 'string' ? title : ''), most.title) },
		entries: [...found.values()]
	};
}

/**
 * By what an entry is known again: its own id; and what it says, since a feed that gives everything another id at each
 * asking has nothing new for it. Changed words under the same id are what was sent.
 */
export const entryMarks = ({ key, title, link, words }: FeedEntry): readonly string[] => [
	key,
	`${title}\n${link ?? ''}\n${words.length}\n${first(words, most.key)}`
];

/** Entries that have not been sent yet, the newest first, known by their marks alone: a feed that changes its dates sends nothing again. Those that say no time stand where the feed has them. */
export function newEntries(
	entries: readonly FeedEntry[],
	sent: ReadonlySet<string>
): readonly FeedEntry[] {
	const known = new Set(sent);
	const fresh = entries.filter((entry) => {
		const marks = entryMarks(entry);
		if (marks.some((mark) => known.has(mark))) return false;
		for (const mark of marks) known.add(mark);
		return true;
	});
	return fresh.every((e) => e.at !== null) ? [...fresh].sort((a, b) => b.at! - a.at!) : fresh;
}
