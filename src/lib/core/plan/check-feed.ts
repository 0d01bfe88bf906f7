import { count } from '../copy/count';
import { block, caution, type Check } from './check';

/** A feed as it was when it was tried. */
export interface FeedTried {
	/** Why it could not be read; null where it could. */
	readonly why: string | null;
	readonly title: string;
	readonly entries: number;
	/** Of them, how many have no title, words, link, picture or time. */
	readonly without: Readonly<Record<'title' | 'words' | 'link' | 'picture' | 'time', number>>;
	/** The newest one's title, or how its words begin. */
	readonly newest: string | null;
}

/** What the check of a sheet's feed looks at. */
export interface FeedInput {
	/** Null where it takes its words from no feed. */
	readonly feed: { readonly address: string; readonly old: boolean; readonly most: number } | null;
	/** Null where it was not tried since its address was written. */
	readonly tried: FeedTried | null;
	/** What the wording takes of it: names of fields, in all its ways. */
	readonly taken: ReadonlySet<string>;
	/** Languages of the wording that take nothing of it, by their names. */
	readonly silent: readonly string[];
}

const what = {
	feed_title: 'title',
	feed_words: 'words',
	feed_link: 'link',
	feed_picture: 'picture',
	feed_time: 'time'
} as const;

/** What is to be said of the feed that a sheet takes its words from. */
export function feedChecks({ feed, tried, taken, silent }: FeedInput): Check[] {
	if (feed === null)
		return taken.size > 0
			? [
					block(
						'body',
						'The wording takes something from a feed, and the sheet has none. Choose “repeating, from a feed” under When, or take those fields out.'
					)
				]
			: [];
	if (feed.address === '')
		return [block('when', 'No feed is said. Put in its address, and try it.')];
	if (!tried) return [block('when', 'The feed has not been tried yet. Try it.')];
	if (tried.why !== null) return [block('when', `The feed cannot be used. ${tried.why}`)];
	if (taken.size === 0)
		return [
			block(
				'body',
				'The wording takes nothing from the feed. Put the feed’s title or words where they are to stand.'
			)
		];
	const name = tried.title === '' ? 'The feed' : `“${tried.title}”`;
	const n = tried.entries;
	const there = `${name} has ${n === 0 ? 'no entry yet' : `${count(n)} ${n === 1 ? 'entry' : 'entries'}`}`;
	const gaps = Object.entries(what).flatMap(([field, part]) =>
		taken.has(field) && tried.without[part] > 0
			? [
					`${count(tried.without[part])} of ${count(n)} without ${part === 'words' ? 'words' : `a ${part}`}`
				]
			: []
	);
	return [
		feed.old && n > 0
			? caution(
					'when',
					`${there}. The first date takes the newest ${count(Math.min(n, feed.most))} of them.`
				)
			: {
					level: 'fine',
					where: 'when',
					text: n === 0 ? `${there}.` : `${there}. They are known; what comes after them is sent.`
				},
		...(gaps.length > 0
			? [caution('body', `Of the feed’s entries, ${gaps.join(', ')}: their line is left out.`)]
			: []),
		...silent.map((language) =>
			block(
				'languages',
				`The wording in ${language} takes nothing from the feed. Put it in there too, or switch it off.`
			)
		)
	];
}
