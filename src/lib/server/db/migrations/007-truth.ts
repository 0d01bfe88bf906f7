/**
 * Every student of an audience is somewhere: a person left out has a row for each set of reasons and
 * students, also where they get a copy for other students, and students who were taken out again are
 * written down with what took them out.
 */
export const up: readonly string[] = [
	`CREATE TABLE left_out_new (id INTEGER PRIMARY KEY AUTOINCREMENT,
		dispatch_id INTEGER NOT NULL REFERENCES dispatch ON DELETE CASCADE,
		person_id INTEGER NOT NULL REFERENCES person, student_ids TEXT NOT NULL, reasons TEXT NOT NULL,
		reached INTEGER NOT NULL DEFAULT 0)`,
	`INSERT INTO left_out_new (dispatch_id, person_id, student_ids, reasons)
		SELECT dispatch_id, person_id, student_ids, reasons FROM left_out`,
	`DROP TABLE left_out`,
	`ALTER TABLE left_out_new RENAME TO left_out`,
	`CREATE INDEX left_out_dispatch ON left_out (dispatch_id, reached)`,
	`CREATE INDEX left_out_person ON left_out (person_id)`,

	// The line of the audience that took the student out, counted from 0; null where it was done by hand.
	`CREATE TABLE taken_out (dispatch_id INTEGER NOT NULL REFERENCES dispatch ON DELETE CASCADE,
		student_id INTEGER NOT NULL REFERENCES person, line INTEGER,
		PRIMARY KEY (dispatch_id, student_id)) WITHOUT ROWID`,

	// Whether a plan of it is written down, also one that came to nobody.
	`ALTER TABLE dispatch ADD COLUMN written INTEGER NOT NULL DEFAULT 0`,
	`UPDATE dispatch SET written = 1 WHERE id IN (SELECT dispatch_id FROM delivery)
		OR id IN (SELECT dispatch_id FROM left_out)`,
	// Why it waits, as a code, where it may go on by itself once that is over.
	`ALTER TABLE dispatch ADD COLUMN waits_code TEXT`,
	// Dates that were taken out by hand and are not made again, JSON; null where that was not written down yet.
	`ALTER TABLE round ADD COLUMN left_out TEXT`,
	// Who made a link to an inbox: the person themselves, or an office that gave it to them.
	`ALTER TABLE family_link ADD COLUMN made_by INTEGER REFERENCES person`,
	// What phones sent, with the newest copy that the number had been sent; `command` is what it asks for by itself.
	`CREATE TABLE text_in (id INTEGER PRIMARY KEY AUTOINCREMENT, at INTEGER NOT NULL, from_number TEXT NOT NULL,
		to_number TEXT NOT NULL, words TEXT NOT NULL, command TEXT, person_id INTEGER REFERENCES person,
		delivery_id INTEGER REFERENCES delivery ON DELETE SET NULL)`,
	`CREATE INDEX text_in_from ON text_in (from_number, at)`,
	`CREATE INDEX text_in_at ON text_in (at)`,
	// Who sent it urgently, and when.
	`ALTER TABLE dispatch ADD COLUMN urgent_by INTEGER REFERENCES person`,
	`ALTER TABLE dispatch ADD COLUMN urgent_at INTEGER`,
	`UPDATE dispatch SET urgent_by = sender_id, urgent_at = scheduled_at
		WHERE state != 'draft' AND json_extract(timing, '$.urgent')`,
	// When the last of its copies is due: turns, quiet hours and pace carry them past the day it leaves on.
	`ALTER TABLE dispatch ADD COLUMN last_due INTEGER`,
	`UPDATE dispatch SET last_due = (SELECT max(due_at) FROM delivery WHERE dispatch_id = dispatch.id)`
];
