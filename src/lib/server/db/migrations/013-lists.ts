/** Contact lists: what the columns of a file are, and what was said of the same heading before. */
export const up: readonly string[] = [
	'ALTER TABLE roster_file ADD COLUMN columns TEXT',
	`CREATE TABLE list_heading (heading TEXT PRIMARY KEY NOT NULL, columns TEXT NOT NULL, complete INTEGER NOT NULL,
		said_at INTEGER NOT NULL, said_by INTEGER NOT NULL REFERENCES person) WITHOUT ROWID`,
	'CREATE INDEX list_heading_said_by ON list_heading (said_by)'
];
