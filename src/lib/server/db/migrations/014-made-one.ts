/** Two people on file who are one: whom somebody is the same as, and what is needed to take that back. */
export const up: readonly string[] = [
	'ALTER TABLE person ADD COLUMN same_as INTEGER REFERENCES person',
	'CREATE INDEX person_same_as ON person (same_as) WHERE same_as IS NOT NULL',
	// A view names its columns once and for all when it is made.
	'DROP VIEW person_now',
	'CREATE VIEW person_now AS SELECT * FROM person WHERE gone_at IS NULL',
	`CREATE TABLE made_one (id INTEGER PRIMARY KEY AUTOINCREMENT, kept_id INTEGER NOT NULL REFERENCES person,
		other_id INTEGER NOT NULL REFERENCES person, at INTEGER NOT NULL, by_id INTEGER NOT NULL REFERENCES person,
		work TEXT NOT NULL, back_at INTEGER, back_by INTEGER REFERENCES person)`,
	'CREATE INDEX made_one_kept ON made_one (kept_id)',
	'CREATE INDEX made_one_other ON made_one (other_id)',
	'CREATE INDEX made_one_by ON made_one (by_id)',
	'CREATE INDEX made_one_back ON made_one (back_by)'
];
