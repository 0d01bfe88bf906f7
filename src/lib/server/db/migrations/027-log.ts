/** What was done: only added to. */
export const up: readonly string[] = [
	`CREATE TABLE log_line (id INTEGER PRIMARY KEY AUTOINCREMENT, at INTEGER NOT NULL, by_id INTEGER REFERENCES person,
		session_id INTEGER, act TEXT NOT NULL, thing TEXT, thing_id INTEGER, school_id INTEGER REFERENCES school,
		before TEXT, after TEXT, bound TEXT NOT NULL)`,
	'CREATE INDEX log_line_thing ON log_line (thing, thing_id)',
	'CREATE INDEX log_line_by ON log_line (by_id, id)',
	'CREATE INDEX log_line_act ON log_line (act, id)',
	'CREATE INDEX log_line_school ON log_line (school_id, id)',
	`CREATE TRIGGER log_line_stays BEFORE UPDATE ON log_line BEGIN SELECT RAISE(ABORT, 'the log is only added to'); END`,
	`CREATE TRIGGER log_line_stays_there BEFORE DELETE ON log_line BEGIN SELECT RAISE(ABORT, 'the log is only added to'); END`,
	// A session has a number that may be seen, beside the token that may not.
	`CREATE TABLE session_new (id INTEGER PRIMARY KEY AUTOINCREMENT, token_hash TEXT NOT NULL UNIQUE, person_id INTEGER NOT NULL REFERENCES person,
		began_at INTEGER NOT NULL, seen_at INTEGER NOT NULL, ends_at INTEGER NOT NULL, browser TEXT NOT NULL, address TEXT NOT NULL)`,
	`INSERT INTO session_new (token_hash, person_id, began_at, seen_at, ends_at, browser, address)
		SELECT token_hash, person_id, ends_at - 50400000, ends_at - 50400000, ends_at, '', '' FROM session`,
	'DROP TABLE session',
	'ALTER TABLE session_new RENAME TO session',
	'CREATE INDEX session_person ON session (person_id)'
];
