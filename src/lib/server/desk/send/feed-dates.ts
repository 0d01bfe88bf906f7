import type { Moment } from '../../../core/time/timing';
import { now } from '../../clock';
import { readTimes } from '../../db/calendar';
import { standing } from '../../db/models/dispatch';
import { feed, feedEntry, feedLook, type FeedLookRow, type FeedRow } from '../../db/models/feed';
import type { Db, Query } from '../../db/open';
import { sheetSchema, type Sheet } from '../sheet/sheet';
import { dateAfter } from './feed-times';

/** A date of a sheet at which its feed is to be asked. */
export interface FeedDue {
	readonly standingId: number;
	readonly feed: FeedRow;
	readonly sheet: Sheet;
	readonly madeBy: number;
	readonly date: Moment;
}

const open = `ended_at IS NULL AND waits IS NULL AND next_at IS NOT NULL`;

/** When a feed is to be asked next (job's clock, ms); null where none is. */
export async function nextFeed(db: Query): Promise<number | null> {
	const row = await db.one<{ at: number | null }>(
		`SELECT min(next_at) AS at FROM feed JOIN standing ON standing.id = standing_id WHERE ${open}`
	);
	return row?.at ?? null;
}

/** The feed that is to be asked now, or the one that is named; null where none is. A date that the calendar has moved on is put back to its time. */
export async function dueFeed(db: Db, standingId: number | null = null): Promise<FeedDue | null> {
	for (;;) {
		const time = await now(db);
		const row = await db.one<{ id: number }>(
			`SELECT standing_id AS id FROM feed JOIN standing ON standing.id = standing_id
			WHERE ${open} AND next_at <= $time AND ($standingId IS NULL OR standing_id = $standingId) ORDER BY next_at LIMIT 1`,
			{ time, standingId }
		);
		if (!row) return null;
		const { sheet: text, madeBy } = (await db.rows(standing).one({ id: row.id }))!;
		const sheet = sheetSchema.parse(JSON.parse(text));
		const own = (await db.rows(feed).one({ standingId: row.id }))!;
		const date = dateAfter(sheet.timing, await readTimes(db), own.doneUntil);
		if (date && date.at <= time) return { standingId: row.id, feed: own, sheet, madeBy, date };
		await db.rows(feed).change({ standingId: row.id }, { nextAt: date?.at ?? null, tries: 0 });
	}
}

/** What came of a date. */
export type FeedCameTo = Pick<FeedLookRow, 'outcome'> &
	Partial<Pick<FeedLookRow, 'entries' | 'why' | 'dispatchId'>> & {
		/** By which the feed is asked the next time; left as it is where nothing is said. */
		readonly asked?: Pick<FeedRow, 'etag' | 'lastModified'>;
		/** By what entries are known from now on, though they were not sent. */
		readonly passedOver?: readonly string[];
	};

/** Whether a date is still to be dealt with: nobody has ended it, held it up or dealt with it meanwhile. */
export async function isStillDue(
	tx: Query,
	{ standingId, feed: { doneUntil } }: FeedDue
): Promise<boolean> {
	return (
		(await tx.one(
			`SELECT 1 FROM feed JOIN standing ON standing.id = standing_id
			WHERE standing_id = $standingId AND done_until = $doneUntil AND ${open}`,
			{ standingId, doneUntil }
		)) !== undefined
	);
}

/** Writes down what came of a date, and when the feed is asked next; in the caller's transaction. */
export async function dateDone(
	tx: Query,
	{ standingId, sheet, date, feed: own }: FeedDue,
	{ asked, passedOver, ...came }: FeedCameTo
): Promise<void> {
	const next = dateAfter(sheet.timing, await readTimes(tx), date.at);
	const failed = came.outcome === 'failed';
	await tx.rows(feedLook).add({ standingId, at: date.at, ...came });
	if (passedOver)
		await tx.rows(feedEntry).addMany(
			passedOver.map((key) => ({ standingId, key, at: date.at, dispatchId: null })),
			'keep'
		);
	await tx.rows(feed).change(
		{ standingId },
		{
			...{ doneUntil: date.at, nextAt: next?.at ?? null, tries: 0 },
			...(passedOver ? { passOver: 0 as const } : {}),
			// Nobody looked at a date that was missed: nothing is known of it.
			...(came.outcome === 'missed'
				? {}
				: { failingSince: failed ? (own.failingSince ?? date.at) : null }),
			...asked
		}
	);
}
