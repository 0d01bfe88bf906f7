/** Sheets that leave whenever a student gains a marker, and who has gained it since. */
export const up: readonly string[] = [
	`CREATE TABLE standing (id INTEGER PRIMARY KEY AUTOINCREMENT, sheet_key TEXT NOT NULL UNIQUE, sheet TEXT NOT NULL,
		subject TEXT NOT NULL, audience_words TEXT NOT NULL, marker_id INTEGER NOT NULL REFERENCES marker,
		hold_minutes INTEGER NOT NULL, ends_at INTEGER NOT NULL, made_by INTEGER NOT NULL REFERENCES person,
		made_at INTEGER NOT NULL, ended_at INTEGER, ended_by INTEGER REFERENCES person, waits TEXT,
		expected TEXT NOT NULL)`,
	'CREATE INDEX standing_marker ON standing (marker_id)',
	'CREATE INDEX standing_made_by ON standing (made_by)',
	'CREATE INDEX standing_ended_by ON standing (ended_by)',
	`CREATE TABLE gained (standing_id INTEGER NOT NULL REFERENCES standing, student_id INTEGER NOT NULL REFERENCES person,
		at INTEGER NOT NULL, done_at INTEGER, dispatch_id INTEGER REFERENCES dispatch ON DELETE SET NULL, why TEXT,
		PRIMARY KEY (standing_id, student_id)) WITHOUT ROWID`,
	'CREATE INDEX gained_student ON gained (student_id)',
	'CREATE INDEX gained_dispatch ON gained (dispatch_id)',
	'CREATE INDEX gained_waiting ON gained (at) WHERE done_at IS NULL'
];
