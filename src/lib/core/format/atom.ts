import { generateAtomFeed } from 'feedsmith';

/** One entry of a feed. */
interface WrittenEntry {
	/** An IRI that never changes (RFC 4287 section 4.2.6). */
	readonly id: string;
	readonly title: string;
	/** HTML that holds nothing that could be run. */
	readonly html: string;
	/** BCP 47. */
	readonly language: string;
	/** Where a person reads it. */
	readonly link: string;
	/** Instants, ms. */
	readonly published: number;
	readonly updated: number;
	readonly files: readonly { readonly href: string; readonly words: string }[];
}

/** A feed as it is written. */
export interface WrittenFeed {
	readonly id: string;
	readonly title: string;
	readonly subtitle: string;
	readonly language: string;
	/** Who speaks (section 4.2.1: one author at least, of the feed or of each entry). */
	readonly author: string;
	/** Its own address, and where a person reads the same. */
	readonly self: string;
	readonly link: string;
	/** Instant, ms. */
	readonly updated: number;
	readonly entries: readonly WrittenEntry[];
}

const plain = (value: string) => ({ value, type: 'text' as const });
/** What no XML may hold (XML 1.0 section 2.2) is left out: a wording can be pasted from anywhere. */
const inXml = (text: string): string =>
	// eslint-disable-next-line no-control-regex -- these are the very ones
	text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]|\p{Surrogate}/gu, '');

/** A feed as Atom (RFC 4287). */
export const writeAtom = (feed: WrittenFeed): string =>
	generateAtomFeed({
		id: feed.id,
		title: plain(inXml(feed.title)),
		subtitle: plain(inXml(feed.subtitle)),
		xml: { lang: feed.language },
		authors: [{ name: inXml(feed.author) }],
		generator: { text: 'Idle Courier' },
		links: [
			{ rel: 'self', type: 'application/atom+xml', href: feed.self },
			{ rel: 'alternate', type: 'text/html', href: feed.link }
		],
		updated: new Date(feed.updated),
		entries: feed.entries.map((e) => ({
			id: e.id,
			title: plain(inXml(e.title)),
			xml: { lang: e.language },
			links: [
				{ rel: 'alternate', type: 'text/html', href: e.link },
				...e.files.map((f) => ({ rel: 'enclosure', href: f.href, title: inXml(f.words) }))
			],
			published: new Date(e.published),
			updated: new Date(e.updated),
			content: { value: inXml(e.html), type: 'html' as const }
		}))
	});
