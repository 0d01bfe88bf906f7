import { z } from 'zod';
import { fillFeed, feedTaken } from '../../../core/copy/fill-feed';
import type { FilledEntry } from '../../../core/copy/feed-words';
import { nameOfLanguage } from '../../../core/copy/language';
import type { FeedEntry } from '../../../core/format/read-feed';
import type { FeedInput, FeedTried } from '../../../core/plan/check-feed';
import { feedOf } from '../../../core/time/timing';
import { now } from '../../clock';
import { feedTried } from '../../db/models/feed';
import type { Query } from '../../db/open';
import type { Sheet } from './sheet';

/** How long it counts that a feed was tried, ms: what has come since would be taken for new. */
export const triedForMs = 86_400_000;
/** As many entries of a feed as are kept to be looked at: as many as one letter takes. */
export const mostShown = 20;

const entriesSchema = z.array(
	z.object({
		key: z.string(),
		title: z.string(),
		words: z.string(),
		link: z.string().nullable(),
		picture: z.string().nullable(),
		at: z.number().nullable()
	})
);
const countsSchema = z.object({
	entries: z.number(),
	without: z.object({
		title: z.number(),
		words: z.number(),
		link: z.number(),
		picture: z.number(),
		time: z.number()
	})
});

/** How many entries a feed has, and how many of them lack what. */
export const countEntries = (entries: readonly FeedEntry[]): z.infer<typeof countsSchema> => {
	const lack = (missing: (e: FeedEntry) => boolean) => entries.filter(missing).length;
	return {
		entries: entries.length,
		without: {
			title: lack((e) => e.title === ''),
			words: lack((e) => e.words === ''),
			link: lack((e) => e.link === null),
			picture: lack((e) => e.picture === null),
			time: lack((e) => e.at === null)
		}
	};
};

/** A feed as it was when it was last tried: what the check says of it, its newest entries, and by what all of them are known again. */
export interface TriedFeed extends FeedTried {
	readonly newestEntries: readonly FeedEntry[];
	readonly keys: readonly string[];
}

/** A feed as it was last tried; null where nobody has of late. */
export async function triedOf(db: Query, address: string): Promise<TriedFeed | null> {
	const row = await db.rows(feedTried).one({ address });
	if (!row || row.at < (await now(db)) - triedForMs) return null;
	const entries = entriesSchema.parse(JSON.parse(row.entries));
	return {
		why: row.why,
		title: row.title,
		...countsSchema.parse(JSON.parse(row.counts)),
		newest: entries[0] ? entries[0].title || entries[0].words.slice(0, 80) : null,
		newestEntries: entries,
		keys: z.array(z.string()).parse(JSON.parse(row.keys))
	};
}

/** Entries as a wording takes them, before their pictures have come. */
const withoutPictures = (entries: readonly FeedEntry[]): FilledEntry[] =>
	entries.map((e) => ({ ...e, picture: null }));

/** What a sheet says as it would with the newest entries of its feed in their place; itself where it takes from none, or none is there. */
export async function withNewest(db: Query, sheet: Sheet, zone: string): Promise<Sheet> {
	const feed = feedOf(sheet.timing);
	const tried = feed ? await triedOf(db, feed.address) : null;
	if (!feed || !tried || tried.newestEntries.length === 0) return sheet;
	const entries = tried.newestEntries.slice(0, feed.most);
	return { ...sheet, wording: fillFeed(sheet.wording, withoutPictures(entries), zone) };
}

/** What the check of a sheet's feed looks at. */
export async function feedInput(db: Query, { timing, wording }: Sheet): Promise<FeedInput> {
	const feed = feedOf(timing);
	const inUse = wording.variants.filter((v) => !v.off);
	return {
		feed,
		tried: feed && feed.address !== '' ? await triedOf(db, feed.address) : null,
		taken: new Set([wording.words, ...inUse.map((v) => v.words)].flatMap((w) => [...feedTaken(w)])),
		silent: inUse
			.filter((v) => feedTaken(v.words).size === 0)
			.map((v) => nameOfLanguage(v.language))
	};
}
