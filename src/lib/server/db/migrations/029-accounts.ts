/** Invitations and links for a new password, second factors, and from where somebody has come in before. */
export const up: readonly string[] = [
	`CREATE TABLE account_link (id INTEGER PRIMARY KEY AUTOINCREMENT, person_id INTEGER NOT NULL REFERENCES person, kind TEXT NOT NULL,
		nonce TEXT NOT NULL DEFAULT (lower(hex(randomblob(16)))), made_at INTEGER NOT NULL, made_by INTEGER REFERENCES person,
		ends_at INTEGER NOT NULL, used_at INTEGER)`,
	'CREATE INDEX account_link_person ON account_link (person_id, kind)',
	'CREATE INDEX account_link_by ON account_link (made_by)',
	`CREATE TABLE second_factor (person_id INTEGER PRIMARY KEY REFERENCES person, secret TEXT NOT NULL, confirmed_at INTEGER,
		last_step INTEGER NOT NULL DEFAULT 0)`,
	`CREATE TABLE recovery_code (code_hash TEXT PRIMARY KEY NOT NULL, person_id INTEGER NOT NULL REFERENCES person, used_at INTEGER) WITHOUT ROWID`,
	'CREATE INDEX recovery_code_person ON recovery_code (person_id)',
	`CREATE TABLE seen_place (person_id INTEGER NOT NULL REFERENCES person, place_hash TEXT NOT NULL, seen_at INTEGER NOT NULL,
		PRIMARY KEY (person_id, place_hash)) WITHOUT ROWID`,
	'ALTER TABLE session ADD COLUMN waits_factor INTEGER NOT NULL DEFAULT 0',
	'ALTER TABLE notice ADD COLUMN account_link_id INTEGER REFERENCES account_link',
	'CREATE INDEX notice_account_link ON notice (account_link_id)'
];
