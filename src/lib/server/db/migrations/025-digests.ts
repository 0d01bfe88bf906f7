/** The ordinary letters of a day in one, at a time of their reader's choosing. */
export const up: readonly string[] = [
	'ALTER TABLE own_time ADD COLUMN digest_at INTEGER',
	`CREATE TABLE digest (id INTEGER PRIMARY KEY AUTOINCREMENT, person_id INTEGER NOT NULL REFERENCES person,
		address TEXT NOT NULL, at INTEGER NOT NULL, nonce TEXT NOT NULL DEFAULT (lower(hex(randomblob(16)))))`,
	'CREATE INDEX digest_person ON digest (person_id)',
	'ALTER TABLE delivery ADD COLUMN in_digest INTEGER NOT NULL DEFAULT 0',
	'ALTER TABLE delivery ADD COLUMN digest_id INTEGER REFERENCES digest',
	'CREATE INDEX delivery_digest ON delivery (digest_id) WHERE digest_id IS NOT NULL',
	'CREATE INDEX delivery_in_digest ON delivery (person_id, due_at) WHERE in_digest = 1'
];
