/** Markers: facts about students, what a list and what a hand said of each, and what copies said of them. */
export const up: readonly string[] = [
	`CREATE TABLE marker (id INTEGER PRIMARY KEY AUTOINCREMENT, name TEXT NOT NULL, kind TEXT NOT NULL,
		school_id INTEGER REFERENCES school, term_id INTEGER REFERENCES term, made_by INTEGER NOT NULL REFERENCES person,
		made_at INTEGER NOT NULL, gone_at INTEGER, version INTEGER NOT NULL DEFAULT 0)`,
	'CREATE INDEX marker_school ON marker (school_id)',
	'CREATE INDEX marker_term ON marker (term_id)',
	'CREATE INDEX marker_made_by ON marker (made_by)',
	'CREATE VIEW marker_now AS SELECT * FROM marker WHERE gone_at IS NULL',
	`CREATE TABLE marked (marker_id INTEGER NOT NULL REFERENCES marker, student_id INTEGER NOT NULL REFERENCES person,
		value TEXT, how TEXT NOT NULL, since INTEGER NOT NULL, by_id INTEGER NOT NULL REFERENCES person, listed TEXT,
		PRIMARY KEY (marker_id, student_id)) WITHOUT ROWID`,
	'CREATE INDEX marked_student ON marked (student_id)',
	'CREATE INDEX marked_by ON marked (by_id)',
	`CREATE TABLE dispatch_mark (dispatch_id INTEGER NOT NULL REFERENCES dispatch ON DELETE CASCADE,
		marker_id INTEGER NOT NULL REFERENCES marker, student_id INTEGER NOT NULL REFERENCES person, value TEXT NOT NULL,
		PRIMARY KEY (dispatch_id, marker_id, student_id)) WITHOUT ROWID`,
	'CREATE INDEX dispatch_mark_marker ON dispatch_mark (marker_id)',
	'CREATE INDEX dispatch_mark_student ON dispatch_mark (student_id)'
];
