import { flag, instant, json, text, whole } from './column';
import { table, type Row } from './table';

export const feedTried = table(
	'feed_tried',
	'A feed as it was when somebody last tried it, before a sheet takes its words from it.',
	{
		address: text().key(),
		at: instant(),
		/** Why it could not be read. */
		why: text().orNull(),
		title: text(),
		/** The newest entries, and by what all of them are known again. */
		entries: json(),
		keys: json(),
		/** How many there are, and how many lack what. */
		counts: json()
	}
);
export const feed = table(
	'feed',
	'From which feed a sheet takes its words, and when it is asked next.',
	{
		standingId: whole().key().of('standing', 'CASCADE'),
		address: text(),
		title: text(),
		/** By which it is asked for the next time (RFC 9110 section 8.8). */
		etag: text().orNull(),
		lastModified: text().orNull(),
		/** Up to which moment its dates are dealt with. */
		doneUntil: instant(),
		nextAt: instant().orNull(),
		/** Tries of the date that is due. */
		tries: whole().usually(0),
		/** Since when it cannot be read. */
		failingSince: instant().orNull(),
		/** Whether what stands in it at its next date counts as sent: an older database was put back. */
		passOver: flag().usually(0)
	}
);
export const feedEntry = table(
	'feed_entry',
	'An entry that a sheet has sent, or that stood there already when it was put down: it is not sent again.',
	{
		standingId: whole().key().of('standing', 'CASCADE'),
		/** One of the marks by which it is known again. */
		key: text().key(),
		at: instant(),
		dispatchId: whole().of('dispatch', 'SET NULL').orNull()
	}
);
export const feedLook = table(
	'feed_look',
	'What came of a date of a sheet that takes its words from a feed.',
	{
		id: whole().neverTwice(),
		standingId: whole().of('standing', 'CASCADE'),
		/** Its moment. */
		at: instant(),
		outcome: text<'sent' | 'nothing' | 'failed' | 'missed'>(),
		entries: whole().usually(0),
		why: text().orNull(),
		dispatchId: whole().of('dispatch', 'SET NULL').orNull()
	}
);

export type FeedTriedRow = Row<typeof feedTried>;
export type FeedRow = Row<typeof feed>;
export type FeedLookRow = Row<typeof feedLook>;
