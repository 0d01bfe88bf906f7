import { feedTaken } from '../../../core/copy/fill-feed';
import type { FilledEntry } from '../../../core/copy/feed-words';
import { entryMarks, newEntries, type FeedEntry } from '../../../core/format/read-feed';
import { feedOf } from '../../../core/time/timing';
import { userById } from '../../access/user';
import { now } from '../../clock';
import { feed } from '../../db/models/feed';
import type { Db } from '../../db/open';
import { fetchOutside } from '../../gateway/fetch-outside';
import { dateDone, dueFeed, isStillDue, type FeedCameTo, type FeedDue } from '../send/feed-dates';
import type { DateTaken } from '../send/release-feed';
import { keepFile } from '../sheet/files';
import { tellFailing } from './tell-failing';
import { askFeed } from './try-feed';

/** What taking from feeds needs. */
export interface FeedHouse {
	readonly db: Db;
	readonly dataFolder: string;
	/** Where whoever is told of it finds it. */
	readonly publicUrl: string;
	/** Origins of our own network whose feeds may be read. */
	readonly inside: readonly string[];
	/** Lets a date go with what is new; a planner does it. */
	readonly release: (standingId: number, taken: DateTaken) => Promise<void>;
}

/** How long after one try that failed the next is made, ms; after the last the date is given up. */
const againMs = [1, 2, 5, 10, 20, 30].map((minutes) => minutes * 60_000);
/** A date that nobody was there to deal with for so long is not made up for, ms. */
const tooLateMs = 6 * 3_600_000;
/** The largest picture that is taken along, bytes. */
const mostPicture = 5_000_000;

/** Asks the feed that is due, and lets its date go where there is something new. Resolves to whether there was one. */
export async function takeFeed(house: FeedHouse): Promise<boolean> {
	const { db } = house;
	const due = await dueFeed(db);
	if (!due) return false;
	if ((await now(db)) - due.date.at > tooLateMs) {
		await finish(db, due, { outcome: 'missed', why: 'The courier was not at work.' });
		return true;
	}
	const came = await askFeed(due.feed.address, house.inside, due.feed);
	if (came.kind === 'failed') await failed(house, due, came.why);
	else if (came.kind === 'same') await finish(db, due, nothingNew);
	else await takeNew(house, due, came);
	return true;
}

const nothingNew: FeedCameTo = { outcome: 'nothing', passedOver: [] };

const finish = (db: Db, due: FeedDue, came: FeedCameTo): Promise<void> =>
	db.write(async (tx) => {
		if (await isStillDue(tx, due)) await dateDone(tx, due, came);
	});

/** A feed that could not be read is asked again a few times; then its date is over, and the next one is waited for. */
async function failed({ db, publicUrl }: FeedHouse, due: FeedDue, why: string): Promise<void> {
	const wait = againMs[due.feed.tries];
	if (wait === undefined) {
		await finish(db, due, { outcome: 'failed', why });
		return tellFailing(db, publicUrl, due, why);
	}
	await db.write(async (tx) => {
		if (!(await isStillDue(tx, due))) return;
		await tx
			.rows(feed)
			.change(
				{ standingId: due.standingId },
				{ tries: due.feed.tries + 1, nextAt: Math.round(await now(tx)) + wait }
			);
	});
}

/** Lets a date go with the newest of what is new; what is beyond the most of one letter is new still at the next. */
async function takeNew(
	house: FeedHouse,
	due: FeedDue,
	came: { entries: readonly FeedEntry[]; etag: string | null; lastModified: string | null }
): Promise<void> {
	const { db } = house;
	const rows = await db.all<{ key: string }>('SELECT key FROM feed_entry WHERE standing_id = $id', {
		id: due.standingId
	});
	const fresh = newEntries(came.entries, new Set(rows.map((r) => r.key)));
	const { etag, lastModified } = came;
	const asked = { etag, lastModified };
	if (fresh.length === 0) return finish(db, due, { ...nothingNew, asked });
	if (due.feed.passOver === 1)
		return finish(db, due, {
			...{ outcome: 'missed', asked, passedOver: fresh.flatMap(entryMarks) },
			why: 'An older database was put back: what is new may have been sent before.'
		});
	const now = fresh.slice(0, feedOf(due.sheet.timing)?.most ?? 1);
	const entries: DateTaken['entries'] = await Promise.all(
		now.map(async (e) => ({
			...e,
			marks: entryMarks(e),
			picture: await pictureOf(house, due, e)
		}))
	);
	await house.release(due.standingId, {
		...{ at: due.date.at, entries },
		// While something is left over, "it is as it was" would pass it over.
		asked: fresh.length > now.length ? { etag: null, lastModified: null } : asked
	});
}

/** The picture of an entry, kept with us, where the wording has a place for it; none where it cannot be had. */
async function pictureOf(
	{ db, dataFolder, inside }: FeedHouse,
	{ sheet: { wording }, madeBy }: FeedDue,
	entry: FeedEntry
): Promise<FilledEntry['picture']> {
	const wanted = [wording.words, ...wording.variants.map((v) => v.words)].some((w) =>
		feedTaken(w).has('feed_picture')
	);
	const user = wanted && entry.picture !== null ? await userById(db, madeBy) : null;
	if (!user || entry.picture === null) return null;
	const came = await fetchOutside(entry.picture, {
		...{ what: 'picture', accept: 'image/*', most: mostPicture, inside }
	});
	if (came.kind !== 'content') return null;
	// What it is called out there is of no use to anybody here.
	const kept = await keepFile(
		...([db, dataFolder, user, 'picture', came.content, 'picture', mostPicture] as const)
	);
	return kept.ok ? { fileId: kept.file.id, width: kept.file.width } : null;
}
