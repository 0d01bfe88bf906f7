import { anew, list } from './anew';

/** Sheets that take their words from a feed: what they have sent, what came of each date, and feeds that were tried. */
export const up: readonly string[] = [
	...anew(
		'standing',
		`id INTEGER PRIMARY KEY AUTOINCREMENT, sheet_key TEXT NOT NULL UNIQUE, sheet TEXT NOT NULL,
		subject TEXT NOT NULL, audience_words TEXT NOT NULL, marker_id INTEGER REFERENCES marker,
		hold_minutes INTEGER NOT NULL, ends_at INTEGER NOT NULL, made_by INTEGER NOT NULL REFERENCES person,
		made_at INTEGER NOT NULL, ended_at INTEGER, ended_by INTEGER REFERENCES person, waits TEXT,
		expected TEXT NOT NULL`,
		list(`id sheet_key sheet subject audience_words marker_id hold_minutes ends_at made_by made_at ended_at ended_by
			waits expected`)
	),
	'CREATE INDEX standing_marker ON standing (marker_id)',
	'CREATE INDEX standing_made_by ON standing (made_by)',
	'CREATE INDEX standing_ended_by ON standing (ended_by)',
	`CREATE TABLE feed_tried (address TEXT PRIMARY KEY NOT NULL, at INTEGER NOT NULL, why TEXT, title TEXT NOT NULL,
		entries TEXT NOT NULL, keys TEXT NOT NULL, counts TEXT NOT NULL)`,
	`CREATE TABLE feed (standing_id INTEGER PRIMARY KEY NOT NULL REFERENCES standing ON DELETE CASCADE, address TEXT NOT NULL,
		title TEXT NOT NULL, etag TEXT, last_modified TEXT, done_until INTEGER NOT NULL, next_at INTEGER,
		tries INTEGER NOT NULL DEFAULT 0, failing_since INTEGER)`,
	'CREATE INDEX feed_next ON feed (next_at) WHERE next_at IS NOT NULL',
	`CREATE TABLE feed_entry (standing_id INTEGER NOT NULL REFERENCES standing ON DELETE CASCADE, key TEXT NOT NULL,
		at INTEGER NOT NULL, dispatch_id INTEGER REFERENCES dispatch ON DELETE SET NULL,
		PRIMARY KEY (standing_id, key)) WITHOUT ROWID`,
	'CREATE INDEX feed_entry_dispatch ON feed_entry (dispatch_id)',
	`CREATE TABLE feed_look (id INTEGER PRIMARY KEY AUTOINCREMENT, standing_id INTEGER NOT NULL REFERENCES standing ON DELETE CASCADE,
		at INTEGER NOT NULL, outcome TEXT NOT NULL, entries INTEGER NOT NULL DEFAULT 0, why TEXT,
		dispatch_id INTEGER REFERENCES dispatch ON DELETE SET NULL)`,
	'CREATE INDEX feed_look_standing ON feed_look (standing_id, at)',
	'CREATE INDEX feed_look_at ON feed_look (at)',
	'CREATE INDEX feed_look_dispatch ON feed_look (dispatch_id)'
];
