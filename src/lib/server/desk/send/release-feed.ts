import { fillFeed } from '../../../core/copy/fill-feed';
import type { FilledEntry } from '../../../core/copy/feed-words';
import { zoneOf } from '../../../core/time/clocks';
import { userById } from '../../access/user';
import { readTimes } from '../../db/calendar';
import { feedEntry, type FeedRow } from '../../db/models/feed';
import type { Db } from '../../db/open';
import { sentenceOf } from '../audience/sentence';
import type { Sheet } from '../sheet/sheet';
import { dateDone, dueFeed, isStillDue, type FeedDue } from './feed-dates';
import { makeLetGo, marksStillSo, putLetGo } from './let-go';
import { holdUpStanding } from './release';
import { dateKey } from './rounds';

/** What a date takes of its feed. */
export interface DateTaken {
	/** The date (instant, ms): of no other is anything written down. */
	readonly at: number;
	readonly entries: readonly (FilledEntry & {
		/** By what it is known again. */
		readonly marks: readonly string[];
	})[];
	/** By which the feed is asked for the next time. */
	readonly asked: Pick<FeedRow, 'etag' | 'lastModified'>;
}

/** The sheet as it leaves at a date, with entries in their places. */
const sheetFor = (
	{ sheet, date }: FeedDue,
	entries: readonly FilledEntry[],
	zone: string
): Sheet => ({
	...sheet,
	sheetKey: dateKey(sheet.sheetKey, `feed ${date.key}`),
	wording: fillFeed(sheet.wording, entries, zone),
	timing: { ...sheet.timing, when: { kind: 'now' } },
	// Each date stands from its own time to its own end.
	board: { ...sheet.board, from: null, until: null },
	holdMinutes: 0
});

/**
 * Lets a date of a sheet go with what is new in its feed: a dispatch of its own, planned now. What can no longer be
 * sent as it stands waits, with the reason, for whoever made it; its entries are new still.
 */
export async function releaseFeed(
	db: Db,
	key: Buffer,
	standingId: number,
	taken: DateTaken
): Promise<void> {
	const due = await dueFeed(db, standingId);
	if (!due || due.date.at !== taken.at) return;
	const user = await userById(db, due.madeBy);
	if (!user)
		return void (await holdUpStanding(db, standingId, 'Whoever made it can no longer sign in.'));
	const zone = zoneOf((await readTimes(db)).clocks, due.sheet.timing.clock);
	const sheet = sheetFor(due, taken.entries, zone);
	const one = await makeLetGo(db, key, user, sheet, { onBoards: true });
	if (one.blocked !== null) return void (await holdUpStanding(db, standingId, one.blocked));
	const words = await sentenceOf(db, user, due.sheet.audience);
	await db.write(async (tx) => {
		if (!(await isStillDue(tx, due)) || !(await marksStillSo(tx, one))) return;
		const dispatchId = await putLetGo(tx, one, words);
		await tx.rows(feedEntry).addMany(
			taken.entries.flatMap((e) =>
				e.marks.map((key) => ({ standingId, key, at: due.date.at, dispatchId }))
			),
			'keep'
		);
		await dateDone(tx, due, {
			...{ outcome: 'sent', entries: taken.entries.length, dispatchId },
			asked: taken.asked
		});
	});
}
