import { entryMarks, newEntries, type FeedEntry } from '../../../core/format/read-feed';
import { now } from '../../clock';
import { feedTried } from '../../db/models/feed';
import type { Db } from '../../db/open';
import { fetchFeed } from '../../gateway/fetch-feed';
import { read, TooLong } from '../../reading/reading';
import { countEntries, mostShown, triedForMs } from '../sheet/feed-tried';
import type { FeedShown } from './types';

/** A feed as it came, the newest entry first; that it is as it was; or why there is none, in words. */
export type FeedCame =
	| {
			readonly kind: 'came';
			readonly title: string;
			readonly entries: readonly FeedEntry[];
			readonly etag: string | null;
			readonly lastModified: string | null;
	  }
	| { readonly kind: 'same' }
	| { readonly kind: 'failed'; readonly why: string };

/** By which a feed is asked for again. */
type Asked = Pick<Extract<FeedCame, { kind: 'came' }>, 'etag' | 'lastModified'>;

/** Fetches a feed and has it read in a thread of its own: what it says comes from strangers. `inside` are places of our own house that may be asked all the same. */
export async function askFeed(
	address: string,
	inside: readonly string[],
	asked: Asked = { etag: null, lastModified: null }
): Promise<FeedCame> {
	const fetched = await fetchFeed(address, { ...asked, inside });
	if (fetched.kind !== 'text') return fetched;
	try {
		const seen = await read('feed', [fetched.text, fetched.from]);
		if (!seen.ok) return { kind: 'failed', why: seen.why };
		const { etag, lastModified } = fetched;
		return {
			...{ kind: 'came', title: seen.title, etag, lastModified },
			entries: newEntries(seen.entries, new Set())
		};
	} catch (error) {
		if (error instanceof TooLong)
			return { kind: 'failed', why: 'The feed is so tangled that it could not be read in time.' };
		throw error;
	}
}

/** Tries a feed before a sheet takes its words from it, and keeps what was there: the check goes by it, and what stands there already is known. */
export async function tryFeed(
	db: Db,
	address: string,
	inside: readonly string[]
): Promise<FeedShown> {
	const came = await askFeed(address, inside);
	const entries = came.kind === 'came' ? came.entries : [];
	const title = came.kind === 'came' ? came.title : '';
	const why =
		came.kind === 'failed'
			? came.why
			: came.kind === 'same'
				? 'Whoever has it says nothing.'
				: null;
	const counts = countEntries(entries);
	const kept = {
		...{ at: Math.round(await now(db)), why, title },
		entries: JSON.stringify(entries.slice(0, mostShown)),
		keys: JSON.stringify(entries.flatMap(entryMarks)),
		counts: JSON.stringify(counts)
	};
	await db.write(async (tx) => {
		const rows = tx.rows(feedTried);
		await tx.run('DELETE FROM feed_tried WHERE at < $old', { old: kept.at - triedForMs });
		if (await rows.one({ address })) await rows.change({ address }, kept);
		else await rows.add({ address, ...kept });
	});
	const beginning = (e: FeedEntry) => e.title || e.words.slice(0, 80);
	return {
		...counts,
		...{ why, title, newest: entries[0] ? beginning(entries[0]) : null },
		newestOf: entries.slice(0, 3).map((e) => ({ title: beginning(e), at: e.at }))
	};
}
