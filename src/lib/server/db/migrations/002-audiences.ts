/** Kept audiences, how a dispatch's copies are made, own choices by kind, and changes of the roster one by one. */
export const up: readonly string[] = [
	`ALTER TABLE dispatch ADD COLUMN kind TEXT NOT NULL DEFAULT 'message'
		CHECK (kind IN ('announcement', 'message'))`,
	// Merging, ways by hand, copies for information: JSON, checked by Zod on the way out.
	`ALTER TABLE dispatch ADD COLUMN handling TEXT NOT NULL DEFAULT '{}'`,
	`CREATE TABLE declined (person_id INTEGER NOT NULL REFERENCES person,
		kind TEXT NOT NULL CHECK (kind IN ('announcement', 'message')),
		way TEXT NOT NULL CHECK (way IN ('email', 'inbox')),
		PRIMARY KEY (person_id, kind, way)) WITHOUT ROWID`,

	// What is given up stays, since dispatches name it; it is only no longer shown or used.
	`CREATE TABLE kept_audience (id INTEGER PRIMARY KEY, name TEXT NOT NULL,
		form TEXT NOT NULL CHECK (form IN ('rule', 'list')), audience TEXT NOT NULL, words TEXT NOT NULL,
		made_by INTEGER NOT NULL REFERENCES person, made_at INTEGER NOT NULL, used_at INTEGER NOT NULL,
		gone_at INTEGER)`,
	`CREATE INDEX kept_audience_maker ON kept_audience (made_by)`,
	// Of a list: who is on it. Of a rule: what it came to when it was last used.
	`CREATE TABLE kept_person (kept_id INTEGER NOT NULL REFERENCES kept_audience ON DELETE CASCADE,
		person_id INTEGER NOT NULL REFERENCES person, student_id INTEGER REFERENCES person,
		explicit INTEGER NOT NULL)`,
	`CREATE INDEX kept_person_of ON kept_person (kept_id)`,

	// What a process that holds the roster has to read again: one person's addresses, or with null all.
	`CREATE TABLE roster_change (version INTEGER PRIMARY KEY AUTOINCREMENT, person_id INTEGER)`,
	`INSERT INTO roster_change (person_id) VALUES (NULL)`,
	`DELETE FROM setting WHERE key = 'roster-version'`,

	`DROP INDEX address_value`,
	`CREATE INDEX address_value ON address (value COLLATE NOCASE)`,
	`CREATE INDEX section_name ON section (name, term_id)`,
	`CREATE INDEX section_course ON section (course_id)`,
	`CREATE INDEX staff_person ON staff (person_id)`
];
