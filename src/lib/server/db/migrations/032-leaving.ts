/** What was packed up to be taken along, and by whom it was taken: once. */
export const up: readonly string[] = [
	`CREATE TABLE leaving (id INTEGER PRIMARY KEY AUTOINCREMENT, asked_by INTEGER NOT NULL REFERENCES person, asked_at INTEGER NOT NULL,
		parts TEXT NOT NULL, state TEXT NOT NULL, file TEXT, bytes INTEGER, made_at INTEGER, why TEXT, token_hash TEXT,
		opened_in INTEGER, taken_at INTEGER)`,
	'CREATE INDEX leaving_by ON leaving (asked_by)'
];
