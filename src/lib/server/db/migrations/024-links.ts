/** Links that were ended before their time, by whoever has them or by an office; and the note that brings somebody a link of their own. */
export const up: readonly string[] = [
	`CREATE TABLE link_end (id INTEGER PRIMARY KEY AUTOINCREMENT, person_id INTEGER NOT NULL REFERENCES person, token_hash TEXT,
		before_at INTEGER, at INTEGER NOT NULL, by_id INTEGER REFERENCES person)`,
	'CREATE UNIQUE INDEX link_end_token ON link_end (token_hash) WHERE token_hash IS NOT NULL',
	'CREATE INDEX link_end_person ON link_end (person_id, before_at)',
	'CREATE INDEX link_end_by ON link_end (by_id)',
	'ALTER TABLE auto_note ADD COLUMN link_id INTEGER REFERENCES family_link',
	'CREATE INDEX auto_note_link ON auto_note (link_id)'
];
